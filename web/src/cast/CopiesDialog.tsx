import {
  alongWay,
  arrayMembers,
  boundsOf,
  childrenOf,
  frameOf,
  gridOf,
  hasForm,
  type Member,
  mirrorCopy,
  type PlacedCopy,
  ringOf,
  type Shot,
  scattered,
  strewn,
  strewnPlaces,
} from '@varrup/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { NumberField, type NumberFieldProps } from '../ui/NumberField.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';

/** More members than this in one go are more than anybody means. */
const MOST = 1000;

/** Sets copies of what is picked out: in a row or a grid, in a ring, or strewn. */
export function CopiesDialog() {
  const open = useQuestion((q) => q.open === 'copies');
  const ask = useQuestion((q) => q.ask);
  const shot = useShot((s) => s.shot);
  const lead = useSelection((s) => s.picked.at(-1));
  if (!open || !shot || !lead) return null;
  return <Copies shot={shot} lead={lead} onClose={() => ask(null)} />;
}

const ways = {
  grid: 'in a row or a grid',
  ring: 'in a ring',
  strewn: 'strewn',
  way: 'along a way',
  surface: 'over a surface',
  mirrored: 'mirrored',
} as const;
type Way = keyof typeof ways;

function Copies({ shot, lead, onClose }: { shot: Shot; lead: string; onClose: () => void }) {
  const [way, setWay] = useState<Way>('grid');
  const Fields = fields[way];
  return (
    <Dialog
      open
      onClose={onClose}
      title="Copies set out"
      about="Each copy has all that hangs on the original and all its keys. The original stays where it is."
    >
      <fieldset className="mb-3 flex flex-wrap gap-1">
        <legend className="sr-only">How they stand</legend>
        {(Object.keys(ways) as Way[]).map((name) => (
          <Button key={name} look="pill" aria-pressed={way === name} onClick={() => setWay(name)}>
            {ways[name]}
          </Button>
        ))}
      </fieldset>
      <Fields shot={shot} lead={lead} onClose={onClose} />
    </Dialog>
  );
}

interface FieldsProps {
  readonly shot: Shot;
  readonly lead: string;
  readonly onClose: () => void;
}

function Grid({ shot, lead, onClose }: FieldsProps) {
  const [counts, setCounts] = useState<[number, number, number]>([4, 1, 1]);
  const [steps, setSteps] = useState(() => sizeOf(shot, lead));
  const set = (list: [number, number, number], i: number, v: number) => list.with(i, v) as [number, number, number];
  return (
    <>
      <div className="grid grid-cols-[1.5rem_1fr_2fr] items-center gap-x-3 gap-y-1.5">
        <span />
        <span className="text-sm text-graphite">how many</span>
        <span className="text-sm text-graphite">apart, in metres</span>
        {(['x', 'y', 'z'] as const).map((axis, i) => (
          <div key={axis} className="contents">
            <span className={`font-medium text-axis-${axis}`}>{axis}</span>
            <NumberField
              label={`How many along ${axis}`}
              value={counts[i]}
              step={1}
              digits={0}
              min={1}
              max={MOST}
              whole
              onChange={(v) => setCounts(set(counts, i, v))}
            />
            <NumberField
              label={`Apart along ${axis}`}
              value={steps[i]}
              unit="m"
              step={0.01}
              digits={3}
              min={-1000}
              max={1000}
              onChange={(v) => setSteps(set(steps, i, v))}
            />
          </div>
        ))}
      </div>
      <SetOut
        count={counts[0] * counts[1] * counts[2] - 1}
        copies={(ids) => gridOf(shot, ids, counts, steps)}
        onClose={onClose}
      />
    </>
  );
}

function Ring({ shot, lead, onClose }: FieldsProps) {
  const [count, setCount] = useState(8);
  const [radius, setRadius] = useState(() => Math.max(1, 2 * Math.max(...sizeOf(shot, lead))));
  const [turned, setTurned] = useState(true);
  return (
    <>
      <Numbered label="how many" value={count} step={1} digits={0} min={2} max={MOST} whole onChange={setCount} />
      <Numbered
        label="to the middle"
        value={radius}
        unit="m"
        step={0.01}
        digits={3}
        min={0}
        max={1000}
        onChange={setRadius}
      />
      <Check label="each turned with the ring" checked={turned} onChange={setTurned} />
      <SetOut count={count - 1} copies={(ids) => ringOf(shot, ids, { count, radius, turned })} onClose={onClose} />
    </>
  );
}

function Strewn({ shot, lead, onClose }: FieldsProps) {
  const [count, setCount] = useState(20);
  const [radius, setRadius] = useState(4);
  const [apart, setApart] = useState(() => sizeOf(shot, lead)[0]);
  const [seed, setSeed] = useState(1);
  const [turned, setTurned] = useState(true);
  const how = { count, radius, apart, turned, seed };
  return (
    <>
      <Numbered label="how many" value={count} step={1} digits={0} min={1} max={MOST} whole onChange={setCount} />
      <Numbered
        label="as far as"
        value={radius}
        unit="m"
        step={0.01}
        digits={3}
        min={0.01}
        max={1000}
        onChange={setRadius}
      />
      <Numbered
        label="apart at least"
        value={apart}
        unit="m"
        step={0.01}
        digits={3}
        min={0}
        max={1000}
        onChange={setApart}
      />
      <Numbered label="seed" value={seed} step={1} digits={0} min={0} max={1e6} whole onChange={setSeed} />
      <Check label="each turned by chance" checked={turned} onChange={setTurned} />
      <SetOut
        count={strewnPlaces(how).length}
        wanted={count}
        copies={(ids) => strewn(shot, ids, how)}
        onClose={onClose}
      />
    </>
  );
}

/** Who of the cast can say where copies stand. */
const among = (shot: Shot, can: (member: Member) => boolean) => {
  const { picked } = useSelection.getState();
  return shot.members
    .values()
    .filter((m) => !picked.includes(m.id) && can(m))
    .sort((a, b) => a.rank - b.rank)
    .map((m) => [m.id, m.name] as const);
};

function AlongWay({ shot, onClose }: FieldsProps) {
  const groups = among(shot, (m) => m.kind === 'group' && childrenOf(shot, m.id).length > 1);
  const [way, setWay] = useState(groups[0]?.[0] ?? '');
  const [count, setCount] = useState(8);
  const [turned, setTurned] = useState(true);
  if (groups.length === 0)
    return (
      <p className="text-graphite">A way goes through the members of a group: group two or more, and it is one.</p>
    );
  return (
    <>
      <Choice label="through" value={way} options={groups} onChange={setWay} />
      <Numbered label="how many" value={count} step={1} digits={0} min={1} max={MOST} whole onChange={setCount} />
      <Check label="each turned to go along" checked={turned} onChange={setTurned} />
      <SetOut
        count={count}
        copies={(ids) =>
          alongWay(shot, ids, { way, count, turned, frame: frameOf(shot, usePlayhead.getState().frame) })
        }
        onClose={onClose}
      />
    </>
  );
}

function OverSurface({ shot, lead, onClose }: FieldsProps) {
  const forms = among(shot, (m) => hasForm(m.kind));
  const [over, setOver] = useState(forms[0]?.[0] ?? '');
  const [count, setCount] = useState(20);
  const [apart, setApart] = useState(() => sizeOf(shot, lead)[0]);
  const [steep, setSteep] = useState(45);
  const [square, setSquare] = useState(true);
  const [turned, setTurned] = useState(true);
  const [seed, setSeed] = useState(1);
  if (forms.length === 0)
    return <p className="text-graphite">There is nobody else in the shot who has a surface of their own.</p>;
  const how = () => {
    const frame = frameOf(shot, usePlayhead.getState().frame);
    return { over, count, apart, steep, square, turned, seed, frame };
  };
  return (
    <>
      <Choice label="over" value={over} options={forms} onChange={setOver} />
      <Numbered label="how many" value={count} step={1} digits={0} min={1} max={MOST} whole onChange={setCount} />
      <Numbered
        label="apart at least"
        value={apart}
        unit="m"
        step={0.01}
        digits={3}
        min={0}
        max={1000}
        onChange={setApart}
      />
      <Numbered
        label="no steeper than"
        value={steep}
        unit="°"
        step={5}
        digits={0}
        min={1}
        max={180}
        onChange={setSteep}
      />
      <Numbered label="seed" value={seed} step={1} digits={0} min={0} max={1e6} whole onChange={setSeed} />
      <Check label="each square on the surface" checked={square} onChange={setSquare} />
      <Check label="each turned by chance" checked={turned} onChange={setTurned} />
      <SetOut count={count} copies={(ids) => scattered(shot, ids, how())} onClose={onClose} />
    </>
  );
}

function Mirrored({ shot, onClose }: FieldsProps) {
  const [axis, setAxis] = useState<'x' | 'z'>('x');
  return (
    <>
      <Choice
        label="across"
        value={axis}
        options={[
          ['x', 'its left and right'],
          ['z', 'its front and back'],
        ]}
        onChange={setAxis}
      />
      <p className="mt-2 text-sm text-graphite">
        Across the middle of the space it lives in, with all its keys. Rigs stand there, but are not mirrored
        themselves.
      </p>
      <SetOut count={1} copies={(ids) => mirrorCopy(shot, ids, axis)} onClose={onClose} />
    </>
  );
}

const fields = {
  grid: Grid,
  ring: Ring,
  strewn: Strewn,
  way: AlongWay,
  surface: OverSurface,
  mirrored: Mirrored,
} as const satisfies Record<Way, unknown>;

/** A number with its label before it. */
const Numbered = (props: NumberFieldProps) => (
  <div className="mb-1.5 grid grid-cols-[7rem_1fr] items-center gap-x-3">
    <span className="text-graphite">{props.label}</span>
    <NumberField {...props} />
  </div>
);

const Check = ({ label, checked, onChange }: { label: string; checked: boolean; onChange: (on: boolean) => void }) => (
  <label className="mt-2 flex items-center gap-2">
    <input
      type="checkbox"
      className="accent-blue"
      checked={checked}
      onChange={(event) => onChange(event.target.checked)}
    />
    {label}
  </label>
);

interface SetOutProps {
  /** How many copies come of it, and how many were wanted. */
  readonly count: number;
  readonly wanted?: number;
  readonly copies: (ids: readonly string[]) => PlacedCopy[];
  readonly onClose: () => void;
}

function SetOut({ count, wanted = count, copies, onClose }: SetOutProps) {
  const { picked } = useSelection.getState();
  const fine = count > 0 && count * picked.length <= MOST;
  const words =
    count < 1
      ? 'One alone is no row.'
      : !fine
        ? `At most ${MOST} at a time.`
        : count < wanted
          ? `${count} copies: there is no room for more`
          : `${count} ${count === 1 ? 'copy' : 'copies'}`;
  return (
    <div className="mt-4 flex items-center justify-between">
      <span className="text-sm text-graphite" role="status">
        {words}
      </span>
      <Button
        look="solid"
        disabled={!fine}
        onClick={() => {
          try {
            const made = copies(picked);
            useShot.getState().run(arrayMembers, { ids: picked, copies: made });
            if (made.length < count) toast(`${made.length} copies: there is no room for more.`);
            onClose();
          } catch (error) {
            toast.error((error as Error).message);
          }
        }}
      >
        set them out
      </Button>
    </div>
  );
}

/** Copies begin a quarter of their size apart. */
function sizeOf(shot: Shot, id: string): [number, number, number] {
  const [x0, y0, z0, x1, y1, z1] = boundsOf(shot.members.at(id), shot.rigs);
  const step = (size: number) => Math.round((size > 0 ? size * 1.25 : 0.5) * 100) / 100;
  return [step(x1 - x0), step(y1 - y0), step(z1 - z0)];
}
