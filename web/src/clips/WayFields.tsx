import { type Clip, setTravel } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { useWay } from './way-drawing.ts';

/** The way a clip is laid along: drawn on the stage, or straight ahead. */
export function WayFields({ clip }: { clip: Clip }) {
  const drawing = useWay((w) => w.clip === clip.id);
  const count = useWay((w) => w.points.length);
  const { run } = useShot.getState();
  const { begin, finish, leave } = useWay.getState();
  if (drawing)
    return (
      <div className="mt-1.5 rounded-lg bg-blue-wash px-2.5 py-1.5 text-sm" role="status">
        <p>
          {count === 0
            ? 'Press on the floor, on steps or a ramp: where the way begins, then on and on.'
            : `${count} ${count === 1 ? 'point' : 'points'}. Enter lays it, Backspace takes the last one back.`}
        </p>
        <div className="mt-1 flex gap-1.5">
          <Button look="pill" disabled={count < 2} onClick={finish}>
            lay it there
          </Button>
          <Button onClick={leave}>leave it</Button>
        </div>
      </div>
    );
  return (
    <div className="mt-1.5 flex flex-wrap gap-1.5">
      <Hint
        text="Points on the floor, on slopes and steps; the walk follows, and its feet stand where they are put"
        side="left"
      >
        <Button look="pill" onClick={() => begin(clip.id)}>
          {clip.way ? 'draw another way' : 'draw a way'}
        </Button>
      </Hint>
      {clip.way ? (
        <Button onClick={() => run(setTravel, { id: clip.id, change: { way: null } })}>straight ahead</Button>
      ) : null}
    </div>
  );
}
