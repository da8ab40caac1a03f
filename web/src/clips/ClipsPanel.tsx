import {
  type Clip,
  clipAtWork,
  clipFrames,
  clipsOf,
  copyClip,
  FRAMES,
  freeClipName,
  kitOf,
  labelPoses,
  lengthFor,
  moveClip,
  newId,
  poseLabels,
  removeClip,
  renameClip,
  resizeClip,
  type Shot,
  setCycles,
  setHalves,
  setTravel,
  takeUpClip,
  varyClip,
} from '@varrup/core';
import { MoreHorizontal } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { toast } from 'sonner';
import { holdFeetAsSeen, lagPicked, makeClip, playRound } from '../commands/clips.ts';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { rigMeant } from '../commands/rig-meant.ts';
import { startKit } from '../kits/KitsPanel.tsx';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { NameDialog } from '../ui/Dialog.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Menu, MenuItem, MenuLine } from '../ui/Menu.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useHabits } from '../view/habits.ts';
import { useLooking } from '../view/looking.ts';
import { useSelection } from '../view/selection.ts';
import { WayFields } from './WayFields.tsx';

/** The clips of the rig that is meant, and what the one at work is. */
export function ClipsPanel({ shot }: { shot: Shot }) {
  const selection = useSelection((s) => s.picked);
  const rig = rigMeant(shot, selection);
  if (!rig)
    return <p className="p-4 text-graphite">Clips belong to rigs: pick one, and make a walk, an idle or a strike.</p>;
  const clips = clipsOf(shot, rig);
  const clip = clipAtWork(shot, rig);
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <h2 className="truncate pt-2 font-semibold" title={shot.members.at(rig).name}>
        {shot.members.at(rig).name}
      </h2>
      {clips.length > 0 ? (
        <ul className="mt-1.5" aria-label="Clips">
          {clips.map((c) => (
            <ClipRow key={c.id} shot={shot} clip={c} />
          ))}
        </ul>
      ) : (
        <p className="mt-1 text-sm text-graphite">
          A clip is a named run of keys that may repeat. Make one and pose it, or let the Gait kit write a walk.
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Hint
          text="What is keyed on the rig and belongs to no clip becomes its keys"
          keys={shortcutOf('clip.new')}
          side="left"
        >
          <Button look="pill" onClick={() => makeClip(shot, rig)}>
            new clip
          </Button>
        </Hint>
        <Hint text="A walk, trot or bound from dials, as plain keys" side="left">
          <Button look="pill" onClick={() => startKit(shot, kitOf('gait')!, shot.members.at(rig))}>
            gait…
          </Button>
        </Hint>
      </div>
      {clip ? <AtWork shot={shot} clip={clip} /> : null}
    </div>
  );
}

function ClipRow({ shot, clip }: { shot: Shot; clip: Clip }) {
  const [renaming, setRenaming] = useState(false);
  const { run } = useShot.getState();
  const atWork = clip.kept === null;
  return (
    <li className={`mt-1 flex h-8 items-center gap-1 rounded-lg px-2 ${atWork ? 'bg-blue-wash' : 'bg-well'}`}>
      <Hint
        text={atWork ? 'At work: its keys are on the sheet' : `Take ${clip.name} up: its keys come onto the sheet`}
        side="left"
      >
        <button
          type="button"
          aria-pressed={atWork}
          className="flex min-w-0 grow items-center gap-1.5 text-left"
          onClick={() => run(takeUpClip, { id: clip.id })}
        >
          <span aria-hidden className={`h-3.5 w-1.5 rounded-full ${atWork ? 'bg-blue' : 'border border-graphite'}`} />
          <span className="truncate">{clip.name}</span>
          <span className="tabular ml-auto shrink-0 text-sm text-graphite">
            {clip.length} · {(clip.length / shot.rate).toFixed(2)} s
          </span>
        </button>
      </Hint>
      <Menu
        align="end"
        trigger={
          <Button look="icon" className="size-6!" aria-label={`More about the clip ${clip.name}`}>
            <MoreHorizontal size={14} />
          </Button>
        }
      >
        <MenuItem onPick={() => setRenaming(true)}>rename…</MenuItem>
        <MenuItem
          onPick={() => run(copyClip, { id: clip.id, copy: newId(), name: freeClipName(shot, clip.rig, clip.name) })}
        >
          copy, and take the copy up
        </MenuItem>
        <MenuItem onPick={() => playRound(clip)}>show one round of it</MenuItem>
        <MenuLine />
        {atWork ? (
          <MenuItem onPick={() => run(removeClip, { id: clip.id, keys: 'keep' })}>
            let the clip go, keep its keys
          </MenuItem>
        ) : null}
        <MenuItem onPick={() => run(removeClip, { id: clip.id, keys: 'take' })}>delete it with its keys</MenuItem>
      </Menu>
      {renaming ? (
        <NameDialog
          title="Rename the clip"
          label="Name"
          initial={clip.name}
          action="rename"
          onName={(name) => run(renameClip, { id: clip.id, name })}
          onClose={() => setRenaming(false)}
        />
      ) : null}
    </li>
  );
}

/** What the clip at work is: how long, how far, and how its halves hang together. */
function AtWork({ shot, clip }: { shot: Shot; clip: Clip }) {
  const { run } = useShot.getState();
  const seconds = clip.length / shot.rate;
  const { id } = clip;
  return (
    <section aria-label={`The clip ${clip.name}`}>
      <Part title="length">
        <div className="flex items-center gap-1.5">
          <Field
            label="frames"
            value={clip.length}
            step={clip.halves === 'mirrored' ? 2 : 1}
            digits={0}
            min={clipFrames.least}
            max={clipFrames.most}
            whole
            onChange={(v) => setLength(clip, v)}
          />
          <span className="tabular text-sm whitespace-nowrap text-graphite">f · {seconds.toFixed(2)} s</span>
          <span className="grow" />
          <Press id="clip.faster" text="×2" />
          <Press id="clip.slower" text="½" />
        </div>
        <div className="mt-1 flex items-center gap-1.5">
          <Field
            label="begins at frame"
            value={clip.first}
            step={1}
            digits={0}
            min={FRAMES.first}
            max={FRAMES.last}
            whole
            onChange={(first) => run(moveClip, { id, first })}
          />
          <span className="text-sm text-graphite">is its first frame</span>
        </div>
        <Choice
          label="At its end it"
          value={clip.cycles}
          options={[
            [true, 'repeats', 'The two ends of the seam are one key'],
            [false, 'ends', 'It plays once'],
          ]}
          onChange={(cycles) => run(setCycles, { id, cycles })}
        />
      </Part>
      <Part title="travel">
        <Choice
          label="The body stays"
          value={clip.travelling}
          options={[
            [false, 'in place', 'As on a treadmill'],
            [true, 'over the stage', 'It gets on as far as its feet carry it'],
          ]}
          onChange={(travelling) => run(setTravel, { id, change: { travelling } })}
        />
        <div className="mt-1 flex items-center gap-1.5">
          <Field
            label="travel a cycle"
            value={clip.travel}
            step={0.01}
            digits={3}
            min={-1000}
            max={1000}
            onChange={(travel) => run(setTravel, { id, change: { travel } })}
          />
          <span className="tabular text-sm text-graphite">m a cycle · {(clip.travel / seconds).toFixed(2)} m/s</span>
        </div>
        <Hint
          text="In the frames they touch it, shown first. Stride, length and travel are tied from then on"
          side="left"
        >
          <Button look="pill" className="mt-1.5" onClick={() => holdFeetAsSeen({ clip })}>
            hold the feet to the ground
          </Button>
        </Hint>
        <WayFields clip={clip} />
      </Part>
      {clip.cycles ? (
        <Part title="halves">
          <Choice
            label="The second half"
            value={clip.halves}
            options={[
              ['mirrored', 'mirrors the first', 'Work on one step makes the other'],
              ['free', 'is for itself', 'For a limp'],
            ]}
            onChange={(halves) => run(setHalves, { id, halves, leads: 'first' })}
          />
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            <Hint text="Contact, down, passing and up, at their fractions of each step" side="left">
              <Button look="pill" onClick={() => run(labelPoses, { id, labels: poseLabels(clip.length) })}>
                label the poses
              </Button>
            </Hint>
          </div>
        </Part>
      ) : null}
      {clip.cycles ? <Timing /> : null}
      {clip.cycles ? <Vary shot={shot} clip={clip} /> : null}
      <Part title="study">
        <Study />
      </Part>
    </section>
  );
}

/** Gives a clip the length that was typed, or says why it cannot have it. */
function setLength(clip: Clip, wanted: number): void {
  const length = lengthFor(clip, wanted);
  if (length !== wanted)
    toast(`${length} frames, not ${wanted}: whole ones${clip.halves === 'mirrored' ? ', as many in each half' : ''}.`);
  useShot.getState().run(resizeClip, { id: clip.id, length });
}

/** Parts of the body later or earlier in the cycle. */
function Timing() {
  const [frames, setFrames] = useState(2);
  return (
    <Part title="picked parts">
      <div className="flex items-center gap-1.5">
        <Hint
          text="Each of the picked controls so many frames later than the one picked before it"
          keys={shortcutOf('clip.lag')}
          side="left"
        >
          <Button look="pill" onClick={() => lagPicked(frames)}>
            lag
          </Button>
        </Hint>
        <Field
          label="frames a link"
          value={frames}
          step={1}
          digits={0}
          min={-100}
          max={100}
          whole
          onChange={setFrames}
        />
        <span className="grow" />
        <Press id="clip.earlier" text="−1" />
        <Press id="clip.later" text="+1" />
      </div>
    </Part>
  );
}

/** Several rounds of a cycle, none quite like the other. */
function Vary({ shot, clip }: { shot: Shot; clip: Clip }) {
  const [how, setHow] = useState({ times: 4, amount: 12, seed: 1 });
  const { run } = useShot.getState();
  const make = () =>
    run(varyClip, {
      id: clip.id,
      copy: newId(),
      name: freeClipName(shot, clip.rig, `${clip.name} varied`),
      how: { ...how, amount: how.amount / 100 },
    });
  return (
    <Part title="vary">
      <div className="grid grid-cols-3 gap-1.5 text-sm text-graphite">
        {(
          [
            ['times', 'rounds', 2, 24],
            ['amount', '% apart', 0, 40],
            ['seed', 'seed', 0, 9999],
          ] as const
        ).map(([name, word, min, max]) => (
          <div key={name}>
            {word}
            <NumberField
              label={word}
              value={how[name]}
              step={1}
              digits={0}
              min={min}
              max={max}
              whole
              onChange={(v) => setHow({ ...how, [name]: v })}
            />
          </div>
        ))}
      </div>
      <Hint text="A clip of its own: this one stays. Feet are left where they stand" side="left">
        <Button look="pill" className="mt-1.5" onClick={make}>
          rounds that differ
        </Button>
      </Hint>
    </Part>
  );
}

/** What helps to look at a cycle. */
function Study() {
  const footprints = useHabits((h) => h.footprints);
  const bodyArcs = useHabits((h) => h.bodyArcs);
  const follow = useLooking((s) => s.follow);
  const four = useLooking((s) => s.four);
  const rows = [
    ['view.footprints', 'footprints', footprints],
    ['view.bodyArcs', 'arcs of the body', bodyArcs],
    ['view.follow', 'go with the body', follow],
    ['view.four', 'side, front and top', four],
  ] as const;
  return (
    <div className="flex flex-wrap gap-1.5">
      {rows.map(([id, word, on]) => (
        <Hint key={id} text={commandOf(id).label} keys={shortcutOf(id)} side="left">
          <Button look="pill" aria-pressed={on} onClick={() => commandOf(id).run()}>
            {word}
          </Button>
        </Hint>
      ))}
      <Hint text={commandOf('view.cycle').label} keys={shortcutOf('view.cycle')} side="left">
        <Button look="pill" onClick={() => commandOf('view.cycle').run()}>
          gait chart
        </Button>
      </Hint>
    </div>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title} className="mt-2.5 border-t border-rule pt-1.5">
    <h3 className="mb-1 text-sm text-graphite">{title}</h3>
    {children}
  </section>
);

function Field({
  label,
  onChange,
  ...number
}: {
  label: string;
  value: number;
  step: number;
  digits: number;
  min: number;
  max: number;
  whole?: boolean;
  onChange: (value: number) => void;
}) {
  return (
    <span className="w-18 shrink-0">
      <NumberField label={label} {...number} onChange={onChange} />
    </span>
  );
}

function Press({ id, text }: { id: string; text: string }) {
  return (
    <Hint text={commandOf(id).label} side="left">
      <Button className="tabular px-1.5! text-sm" aria-label={commandOf(id).label} onClick={() => commandOf(id).run()}>
        {text}
      </Button>
    </Hint>
  );
}

/** One of two, side by side. */
function Choice<T extends string | boolean>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [value: T, word: string, hint: string])[];
  onChange: (value: T) => void;
}) {
  return (
    <fieldset className="mt-1 flex rounded-full bg-well p-0.5">
      <legend className="sr-only">{label}</legend>
      {options.map(([own, word, hint]) => (
        <Hint key={word} text={hint} side="left">
          <button
            type="button"
            aria-pressed={own === value}
            onClick={() => onChange(own)}
            className="h-6 min-w-0 grow truncate rounded-full px-2 text-sm text-graphite aria-pressed:bg-card aria-pressed:font-medium aria-pressed:text-ink"
          >
            {word}
          </button>
        </Hint>
      ))}
    </fieldset>
  );
}
