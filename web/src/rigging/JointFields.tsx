import { type Build, type BuildJoint, hangJoint, moveJoint, renameJoint, setJoint } from '@varrup/core';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Choice, Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { change, useBuilding } from './build-store.ts';

const DEGREES = 180 / Math.PI;
const axes = ['x', 'y', 'z'] as const;
/** As far as a turn goes where nothing limits it, degrees. */
const ROUND = 180;

/** All there is to say about the picked joint. */
export function JointFields({ build, joint }: { build: Build; joint: BuildJoint }) {
  const pairs = useBuilding((b) => b.pairs);
  const set = (next: Partial<Pick<BuildJoint, 'axes' | 'limits'>>) =>
    change('set a joint', (b) => setJoint(b, joint.id, next, { pairs }));
  const turns = (axis: string) => joint.axes.includes(axis);
  const toggle = (axis: string) => set({ axes: axes.filter((a) => (a === axis ? !turns(axis) : turns(a))).join('') });
  return (
    <section aria-label={`Joint ${joint.name}`} className="shrink-0 border-t border-rule px-3 py-2">
      <NameField key={joint.id + joint.name} joint={joint} />
      <div className="mt-1.5 flex flex-col gap-1">
        {axes.map((axis, i) => (
          <Row key={axis} label={axis}>
            <NumberField
              label={`place ${axis} of ${joint.name}`}
              value={joint.place[i]}
              unit="m"
              step={0.01}
              digits={3}
              min={-1000}
              max={1000}
              onChange={(value) =>
                change('move a joint', (b) => {
                  const place = joint.place.map((v, c) => (c === i ? value : v)) as unknown as BuildJoint['place'];
                  return moveJoint(b, joint.id, place, { pairs, along: false });
                })
              }
            />
          </Row>
        ))}
        <Choice
          label="hangs on"
          value={joint.parent ?? ''}
          options={[
            ['', 'nothing'],
            ...build.joints.filter((j) => j.id !== joint.id).map((j) => [j.id, j.name] as const),
          ]}
          onChange={(parent) => change('hang a joint', (b) => hangJoint(b, joint.id, parent || null, { pairs }))}
        />
        <Row label="turns">
          <span className="flex gap-1">
            {axes.map((axis) => (
              <Hint key={axis} text={`Whether it turns about ${axis}. A hinge turns about one axis alone.`}>
                <Button
                  look="pill"
                  aria-pressed={turns(axis)}
                  aria-label={`turns about ${axis}`}
                  onClick={() => toggle(axis)}
                >
                  {axis}
                </Button>
              </Hint>
            ))}
          </span>
        </Row>
        {axes.filter(turns).map((axis) => (
          <LimitRow
            key={axis}
            axis={axis}
            limit={joint.limits[`turn.${axis}`]}
            onChange={(limit) => {
              const { [`turn.${axis}`]: _, ...rest } = joint.limits;
              set({ limits: limit ? { ...rest, [`turn.${axis}`]: limit } : rest });
            }}
          />
        ))}
      </div>
    </section>
  );
}

function NameField({ joint }: { joint: BuildJoint }) {
  const [name, setName] = useState(joint.name);
  const take = () => {
    if (name.trim() !== joint.name)
      change('name a joint', (b) => {
        const next = renameJoint(b, joint.id, name);
        return [next, next.joints[b.joints.findIndex((j) => j.id === joint.id)].id];
      });
  };
  return (
    <input
      aria-label="name of the joint"
      value={name}
      onChange={(event) => setName(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') setName(joint.name);
      }}
      className="h-7 w-full rounded-md border border-rule bg-paper px-2 font-medium"
    />
  );
}

type Limit = BuildJoint['limits'][string];

function LimitRow({
  axis,
  limit,
  onChange,
}: {
  axis: string;
  limit: Limit | undefined;
  onChange: (limit: Limit | null) => void;
}) {
  const [min, max] = [limit?.min ?? -Math.PI, limit?.max ?? Math.PI];
  const field = (label: string, value: number, low: number, high: number, take: (radians: number) => Limit) => (
    <NumberField
      label={`${label} about ${axis}`}
      value={value * DEGREES}
      unit="°"
      step={5}
      digits={0}
      min={low}
      max={high}
      onChange={(degrees) => onChange(take(degrees / DEGREES))}
    />
  );
  return (
    <Row label={`about ${axis}`}>
      {field('least', min, -ROUND, max * DEGREES, (v) => ({ min: v, max }))}
      {field('most', max, min * DEGREES, ROUND, (v) => ({ min, max: v }))}
      {limit ? (
        <Button look="plain" aria-label={`no limit about ${axis}`} onClick={() => onChange(null)}>
          free
        </Button>
      ) : null}
    </Row>
  );
}
