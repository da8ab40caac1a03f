import { addJoint, type Build, type BuildJoint, boxOf, removeJoint, sideOfPlace } from '@varrup/core';
import { Plus, Trash2 } from 'lucide-react';
import { SideMark } from '../cast/SideMark.tsx';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { change, useBuilding } from './build-store.ts';
import { keys } from './keys.ts';

const partWords = { trunk: 'trunk', head: 'head', leg: 'leg', arm: 'arm', tail: 'tail', look: 'looks', dial: 'dial' };

/** The joints as they hang on each other. */
export function JointList({ build }: { build: Build }) {
  const picked = useBuilding((b) => b.picked);
  const pairs = useBuilding((b) => b.pairs);
  const rows = inTree(build.joints);
  const part = new Map(build.parts.flatMap((p) => p.joints.map((j) => [j, partWords[p.kind]] as const)));
  return (
    <section aria-label="Joints" className="flex min-h-0 grow flex-col">
      <header className="flex items-center gap-1 px-3 pt-2">
        <h2 className="grow font-semibold">
          Joints <span className="tabular font-normal text-graphite">{build.joints.length}</span>
        </h2>
        <Hint text="Put a joint in the middle of the body, to be moved by numbers">
          <Button
            look="icon"
            aria-label="Put a joint in the middle"
            onClick={() => change('put in a joint', (b) => inMiddle(b, picked, pairs))}
          >
            <Plus size={15} />
          </Button>
        </Hint>
        <Hint text="Take the picked joint away; what hangs on it goes to who carries it" keys={keys.remove}>
          <Button
            look="icon"
            aria-label="Take the picked joint away"
            disabled={picked === null}
            onClick={() => picked && change('remove a joint', (b) => removeJoint(b, picked, { pairs }))}
          >
            <Trash2 size={15} />
          </Button>
        </Hint>
      </header>
      {rows.length === 0 ? (
        <p className="px-3 py-1 text-sm text-graphite">
          None yet. Press on the body: a joint lands in its middle, and the next one hangs on it.
        </p>
      ) : null}
      <ul className="min-h-0 grow overflow-y-auto px-1 pb-2">
        {rows.map(({ joint, depth }) => (
          <li key={joint.id}>
            <button
              type="button"
              aria-pressed={picked === joint.id}
              onClick={() => useBuilding.setState({ picked: joint.id, trying: null })}
              style={{ paddingLeft: 8 + Math.min(depth, 12) * 9 }}
              className="flex h-6 w-full items-center gap-1.5 rounded-md pr-2 text-left hover:bg-well aria-pressed:bg-blue-wash aria-pressed:text-blue"
            >
              <SideMark side={(['right', 'centre', 'left'] as const)[sideOfPlace(joint.place) + 1]} />
              <span className="min-w-0 grow truncate" title={joint.name}>
                {joint.name}
              </span>
              <span className="shrink-0 text-xs text-graphite">
                {part.get(joint.id) ?? (joint.axes.length === 1 ? 'hinge' : '')}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function inMiddle(build: Build, parent: string | null, pairs: boolean): [Build, string] {
  const { min, max } = boxOf(build);
  const place = [0, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2] as const;
  return addJoint(build, { name: 'joint', parent, place, pairs });
}

/** Joints under who carries them, with how deep they hang. */
function inTree(joints: readonly BuildJoint[]): { joint: BuildJoint; depth: number }[] {
  const under = new Map<string | null, BuildJoint[]>();
  for (const joint of joints) under.set(joint.parent, [...(under.get(joint.parent) ?? []), joint]);
  const list = (parent: string | null, depth: number): { joint: BuildJoint; depth: number }[] =>
    (under.get(parent) ?? []).flatMap((joint) => [{ joint, depth }, ...list(joint.id, depth + 1)]);
  return list(null, 0);
}
