import { useQuery } from '@tanstack/react-query';
import { api } from '../api/client.ts';

/** So often it is asked, in milliseconds, how much room the server's disk has; oftener where it has little. */
const LOOK_EVERY = 30_000;
const SOON = 5_000;

/** A warning where the server's disk is nearly full, or is; nothing where there is room. */
export function RoomNote() {
  const { data } = useQuery({
    queryKey: ['health'],
    queryFn: api.health,
    retry: false,
    refetchInterval: (query) => (query.state.data && query.state.data.room !== 'enough' ? SOON : LOOK_EVERY),
  });
  if (!data || data.room === 'enough') return null;
  const free = `${Math.floor((data.free ?? 0) / 1e6)} MB free`;
  const [words, why] =
    data.room === 'full'
      ? [
          `disk full: ${free}`,
          'Nothing can be saved on the server now. What you do is kept in this browser and sent when there is room.',
        ]
      : [
          `disk nearly full: ${free}`,
          'Make room on the server’s disk soon. When it is full, nothing more can be saved.',
        ];
  return (
    <span
      role="status"
      title={why}
      className="flex items-center gap-1.5 rounded-full bg-well px-2 py-0.5 text-sm whitespace-nowrap"
    >
      <span
        className={`size-2 rounded-full border border-vermilion ${data.room === 'full' ? 'bg-vermilion' : ''}`}
        aria-hidden
      />
      {words}
    </span>
  );
}
