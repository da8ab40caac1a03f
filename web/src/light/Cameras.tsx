import {
  addMember,
  camerasOf,
  changeChannels,
  channelPath,
  isLocked,
  lensOf,
  type Member,
  newMember,
  reshapeMember,
  type Shot,
  viewOf,
} from '@varrup/core';
import { Video } from 'lucide-react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice, Row } from '../ui/Choice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useAutoKey } from '../view/auto-key.ts';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { select } from '../view/selection.ts';
import { Channels } from './Channels.tsx';

/** The shot's cameras: lenses, what is sharp, and whom it follows. */
export function Cameras({ shot }: { shot: Shot }) {
  const run = useShot((s) => s.run);
  const cameras = camerasOf(shot);
  const bring = () => {
    const camera = newMember(shot, { kind: 'camera', values: { 'move.y': 1.2, 'move.z': 6 } });
    run(addMember, { member: camera });
    select([camera.id]);
  };
  return (
    <section aria-label="Cameras" className="mt-3 border-t border-rule pt-2">
      {cameras.length === 0 ? (
        <p className="text-graphite">No camera in this shot: the whole cast is in view.</p>
      ) : null}
      {cameras.map((camera) => (
        <div key={camera.id} className="mb-1">
          <button type="button" className="rounded font-medium hover:underline" onClick={() => select([camera.id])}>
            {camera.name}
          </button>
          <Lens shot={shot} camera={camera} />
          <Channels shot={shot} member={camera} ids={['aperture', 'focus']} />
          <Follows shot={shot} camera={camera} />
        </div>
      ))}
      <Button look="pill" className="mt-1" onClick={bring}>
        <span className="inline-flex items-center gap-1.5">
          <Video size={14} />
          bring in a camera
        </span>
      </Button>
    </section>
  );
}

/** The angle of view, as photographers say it. */
function Lens({ shot, camera }: { shot: Shot; camera: Member }) {
  const frame = usePlayhead((p) => p.settled);
  const lens = lensOf(live.now?.value(camera.id, 'view') ?? viewOf(38));
  const set = (millimetres: number) =>
    useShot.getState().run(changeChannels, {
      frame,
      values: { [channelPath(camera.id, 'view')]: viewOf(millimetres) },
      autoKey: useAutoKey.getState().mode,
    });
  return (
    <Row label="lens, mm">
      <NumberField
        label={`lens of ${camera.name}, millimetres`}
        value={lens}
        step={1}
        digits={1}
        min={3.5}
        max={1_000}
        disabled={isLocked(shot, camera.id)}
        onChange={set}
      />
    </Row>
  );
}

/** Who stays sharp. */
function Follows({ shot, camera }: { shot: Shot; camera: Extract<Member, { kind: 'camera' }> }) {
  const others = shot.members
    .values()
    .filter((m) => m.id !== camera.id && m.kind !== 'control' && m.kind !== 'sky')
    .sort((a, b) => a.rank - b.rank);
  return (
    <Choice
      label="sharp"
      value={camera.shape.follow ?? ''}
      options={[['', 'as its focus says'], ...others.map((m) => [m.id, `${m.name}, wherever it goes`] as const)]}
      onChange={(id) => useShot.getState().run(reshapeMember, { id: camera.id, shape: { follow: id || null } })}
    />
  );
}
