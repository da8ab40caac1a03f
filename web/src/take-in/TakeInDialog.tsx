import {
  type FoundCurves,
  type Member,
  neededRoles,
  offFrames,
  type Pairing,
  type Role,
  rigRoles,
  roles,
  SAMPLE_RATE,
  type Shot,
  sceneRoles,
} from '@varrup/core';
import { useMemo, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import type { TakenFile } from './take-in.worker.ts';
import { leaveFiles, putOnto, type TakenSound, takeCurves, takeIn, takeSounds, useTaking } from './taking.ts';

/** What is in a file that came in, what of it stays out, and what of it is wanted. */
export function TakeInDialog() {
  const open = useQuestion((q) => q.open === 'take-in');
  const ask = useQuestion((q) => q.ask);
  const { state, names, share, taken, found, sounds, problem } = useTaking();
  if (!open) return null;
  const close = () => {
    leaveFiles();
    ask(null);
  };
  return (
    <Dialog open onClose={close} title="Bring in a file" about={names.join(', ')}>
      {state === 'reading' ? (
        <div>
          <progress aria-label="Reading" className="h-2 w-full accent-blue" value={share ?? undefined} />
          <p role="status" className="mt-1 text-graphite">
            Reading it…
          </p>
        </div>
      ) : null}
      {problem ? (
        <p role="alert" className="mb-3 text-vermilion-ink">
          {problem} The shot is as it was.
        </p>
      ) : null}
      {taken && state !== 'refused' ? <Found key={taken.rig.id} taken={taken} keeping={state === 'keeping'} /> : null}
      {found ? <Curves found={found} /> : null}
      {sounds.length > 0 && state !== 'refused' ? <Sounds sounds={sounds} keeping={state === 'keeping'} /> : null}
      {state === 'reading' || state === 'refused' ? (
        <Button look="pill" className="mt-3" onClick={close}>
          {problem ? 'leave it' : 'cancel'}
        </Button>
      ) : null}
    </Dialog>
  );
}

function Found({ taken, keeping }: { taken: TakenFile; keeping: boolean }) {
  const rate = useShot((s) => s.shot?.rate ?? 24);
  const [frames, setFrames] = useState(true);
  const [without, setWithout] = useState<readonly number[]>([]);
  const wanted = taken.motions.map((_, m) => m).filter((m) => !without.includes(m));
  const { name, isPicture, joints, vertices, motions, left } = taken;
  const between = offFrames(taken);
  const shot = useShot((s) => s.committed);
  const bodies = shot ? twoLegged(shot) : [];
  const [onto, setOnto] = useState('');
  const choice =
    bodies.length > 0 && motions.length > 0 ? (
      <label className="flex items-center gap-2">
        <span className="w-20 shrink-0 text-graphite">it becomes</span>
        <select
          value={onto}
          onChange={(event) => setOnto(event.target.value)}
          className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-1"
        >
          <option value="">a rig of its own</option>
          {bodies.map(({ id, name: rig }) => (
            <option key={id} value={id}>
              a clip of {rig}
            </option>
          ))}
        </select>
      </label>
    ) : null;
  if (onto !== '')
    return (
      <div className="flex flex-col gap-3">
        {choice}
        <Onto taken={taken} rig={onto} keeping={keeping} />
      </div>
    );
  return (
    <div className="flex flex-col gap-3">
      {choice}
      <p>
        <span className="font-semibold">{name}</span>{' '}
        {isPicture
          ? 'becomes a board of the library that stands on the floor, a metre high, with the picture on both sides.'
          : `becomes a rig of the library: ${joints} ${joints === 1 ? 'joint' : 'joints'}, each with a control, and ${vertices} vertices.`}
      </p>
      {motions.length > 0 ? (
        <fieldset className="flex max-h-48 flex-col gap-1 overflow-y-auto">
          <legend className="mb-1 text-graphite">its motions, as clips</legend>
          {motions.map((motion, m) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the motions of a file stay in their places, and may be called alike.
            <label key={m} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-blue"
                checked={!without.includes(m)}
                onChange={(event) =>
                  setWithout(event.target.checked ? without.filter((w) => w !== m) : [...without, m])
                }
              />
              <span className="min-w-0 grow truncate">{motion.name}</span>
              <span className="tabular text-sm text-graphite">
                {motion.length} frames · {(motion.length / rate).toFixed(2)} s
              </span>
            </label>
          ))}
        </fieldset>
      ) : isPicture ? null : (
        <p className="text-graphite">It brings no motions.</p>
      )}
      {between > 0 ? (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-blue"
            checked={frames}
            onChange={(event) => setFrames(event.target.checked)}
          />
          a key at every frame, where {between} curves have keys between frames
        </label>
      ) : null}
      <StaysOut left={left} />
      <Button look="solid" disabled={keeping} onClick={() => void takeIn(wanted, frames)}>
        bring it in
      </Button>
    </div>
  );
}

function Curves({ found: { curves, left } }: { found: FoundCurves }) {
  const keys = [...curves.values()].reduce((sum, curve) => sum + curve.keys.length, 0);
  return (
    <div className="flex flex-col gap-3">
      <p>
        {curves.size === 0
          ? 'None of its columns finds a channel in this shot.'
          : `${curves.size} ${curves.size === 1 ? 'channel gets its curve' : 'channels get their curves'} from it, ${keys} keys, in place of what they have.`}
      </p>
      <StaysOut left={left} />
      <Button look="solid" disabled={curves.size === 0} onClick={takeCurves}>
        take them in
      </Button>
    </div>
  );
}

function Sounds({ sounds, keeping }: { sounds: readonly TakenSound[]; keeping: boolean }) {
  const now = usePlayhead((p) => Math.round(p.frame));
  return (
    <div className="flex flex-col gap-3">
      <ul className="flex max-h-48 flex-col gap-1 overflow-y-auto">
        {sounds.map(({ name, samples }, s) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the sounds stay in their places, and may be called alike.
          <li key={s} className="flex gap-2">
            <span className="min-w-0 grow truncate font-semibold">{name}</span>
            <span className="tabular text-sm text-graphite">{(samples.length / SAMPLE_RATE).toFixed(2)} s</span>
          </li>
        ))}
      </ul>
      <p className="text-graphite">
        {sounds.length === 1 ? 'It is' : 'They are'} laid under the sheet from frame {now} on, and can be moved there.
      </p>
      <Button look="solid" disabled={keeping} onClick={() => void takeSounds(now)}>
        lay {sounds.length === 1 ? 'it' : 'them'} under the sheet
      </Button>
    </div>
  );
}

function StaysOut({ left }: { left: readonly string[] }) {
  if (left.length === 0) return null;
  return (
    <section aria-label="What stays out">
      <h3 className="text-graphite">what stays out, or comes in another way</h3>
      <ul className="mt-1 max-h-48 list-disc overflow-y-auto pl-5 text-sm">
        {left.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </section>
  );
}

/** The rigs of a shot that a capture can be put onto. */
function twoLegged(shot: Shot): Member[] {
  return shot.members.values().filter((member) => {
    if (member.kind !== 'rig') return false;
    try {
      rigRoles(shot, member.id);
      return true;
    } catch {
      return false;
    }
  });
}

const partWords = (role: Role): string =>
  role.replace(/([LR])$/, ' $1').replace('arm ', role.startsWith('arm') ? 'upper arm ' : 'arm ');

/** Which joint of the file is which part of the body: what was found, to be corrected. */
function Onto({ taken, rig, keeping }: { taken: TakenFile; rig: string; keeping: boolean }) {
  const { scene } = taken;
  const [motion, setMotion] = useState(0);
  const found = useMemo(() => sceneRoles(scene, scene.motions[0]), [scene]);
  const [changes, setChanges] = useState<Partial<Record<Role, number>>>({});
  const pairing: Pairing = { ...found, ...changes };
  const lacking = neededRoles.filter((role) => pairing[role] < 0);
  const paired = roles.filter((role) => pairing[role] >= 0).length;
  const isLacking = lacking.length > 0;
  return (
    <>
      {scene.motions.length > 1 ? (
        <label className="flex items-center gap-2">
          <span className="w-20 shrink-0 text-graphite">motion</span>
          <select
            value={motion}
            onChange={(event) => setMotion(Number(event.target.value))}
            className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-1"
          >
            {scene.motions.map((m, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the motions of a file stay in their places, and may be called alike.
              <option key={i} value={i}>
                {m.name}
              </option>
            ))}
          </select>
        </label>
      ) : null}
      <details open={isLacking}>
        <summary className="cursor-pointer rounded">
          {paired} of {roles.length} parts of the body found
          {isLacking ? `; ${lacking.map(partWords).join(', ')} must be` : ''}
        </summary>
        <div className="mt-1 grid max-h-64 grid-cols-[auto_1fr] items-center gap-x-3 gap-y-1 overflow-y-auto">
          {roles.map((role) => (
            <label key={role} className="contents">
              <span className={pairing[role] < 0 ? 'text-graphite' : ''}>{partWords(role)}</span>
              <select
                aria-label={partWords(role)}
                value={pairing[role]}
                onChange={(event) => setChanges({ ...changes, [role]: Number(event.target.value) })}
                className="h-7 min-w-0 rounded-md border border-rule bg-paper px-1"
              >
                <option value={-1}>nothing</option>
                {scene.nodes.map(({ name }, n) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the nodes of a file stay in their places, and may be called alike.
                  <option key={n} value={n}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
          ))}
        </div>
      </details>
      <p className="text-sm text-graphite">
        Its hips and feet go as theirs went, as much further as its legs are longer; keys are as few as keep it within
        0.5 mm and 0.1°.
      </p>
      <Button look="solid" disabled={keeping || isLacking} onClick={() => void putOnto(rig, motion, pairing)}>
        put it on
      </Button>
    </>
  );
}
