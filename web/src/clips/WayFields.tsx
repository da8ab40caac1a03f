import { type Clip, rangeOf, setTravel, wayPoint } from '@varrup/core';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { usePlayhead } from '../view/playhead.ts';
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
        <PointInNumbers />
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

/** The next point of a way in numbers, for whoever does not point at the floor. */
function PointInNumbers() {
  const last = useWay((w) => w.points.at(-1));
  const [typed, setTyped] = useState<{ readonly x?: number; readonly z?: number }>({});
  const [x, z] = [typed.x ?? last?.[0] ?? 0, typed.z ?? last?.[2] ?? 0];
  const put = () => {
    const { shot } = useShot.getState();
    if (shot) useWay.getState().add(wayPoint(shot, x, z, last?.[1] ?? 0, usePlayhead.getState().frame));
  };
  return (
    <section aria-label="The next point" className="mt-1 flex items-center gap-1.5">
      {(['x', 'z'] as const).map((axis) => (
        <span key={axis} className="flex items-center gap-1 text-graphite">
          {axis}
          <span className="w-14">
            <NumberField
              label={`${axis} of the next point`}
              value={axis === 'x' ? x : z}
              step={0.1}
              digits={2}
              {...rangeOf({ unit: 'm' })}
              onChange={(v) => setTyped({ ...typed, [axis]: v })}
            />
          </span>
        </span>
      ))}
      <Button className="px-1.5!" onClick={put}>
        put it
      </Button>
    </section>
  );
}
