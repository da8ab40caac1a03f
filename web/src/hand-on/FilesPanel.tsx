import { formatNames, formats, type Shot } from '@varrup/core';
import { ChevronDown, ChevronRight, FileOutput, Plus, X } from 'lucide-react';
import { useState } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { Button } from '../ui/Button.tsx';
import { Choice, Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useHabits } from '../view/habits.ts';
import { handOnNow } from './commands.ts';
import { Made } from './Made.tsx';
import { useMade } from './made.ts';
import { useLookedThrough, useRemarks } from './remarks.ts';
import { firstRecipients, type Recipient, useWanted, type Wishes } from './wanted.ts';

/** Who receives the work, what of it, and how: then one press. */
export function FilesPanel({ shot }: { shot: Shot }) {
  const wishes = useWanted((w) => w.wishes);
  useLookedThrough(shot);
  return (
    <div className="flex min-h-0 grow flex-col">
      <div className="min-h-0 grow overflow-y-auto px-4 py-3">
        <Recipients />
        <Kind wishes={wishes} />
        {isWhole(wishes) ? null : (
          <>
            <Motions shot={shot} wishes={wishes} />
            <How wishes={wishes} rate={shot.rate} />
          </>
        )}
      </div>
      <div className="max-h-[55%] shrink-0 overflow-y-auto border-t border-rule px-4 py-2">
        <RemarksLine />
        <Hint text="Makes the files and saves them" keys={shortcutOf('handOn.now')}>
          <Button look="solid" className="mt-1 w-full" onClick={() => void handOnNow()}>
            <FileOutput size={15} className="mr-1.5 -mt-0.5 inline" aria-hidden />
            hand on
          </Button>
        </Hint>
        <Latest shot={shot} />
      </div>
    </div>
  );
}

/** Whether it is the shot as it is that goes out, and nothing is asked of its motions. */
const isWhole = ({ format }: Wishes): boolean => (formats[format].without as readonly string[]).includes('motions');

/** Remembered wishes under names: one's own after those that are there from the beginning. */
function Recipients() {
  const own = useHabits((h) => h.recipients);
  const set = useHabits((h) => h.set);
  const { recipient, wishes } = useWanted();
  const [naming, setNaming] = useState<string | null>(null);
  const all: readonly Recipient[] = [...firstRecipients, ...own];
  const take = (name: string) => {
    const found = all.find((r) => r.name === name);
    if (found) useWanted.setState({ wishes: found.wishes, recipient: name });
  };
  const remember = () => {
    const name = naming?.trim();
    if (!name) return;
    set({ recipients: [...own.filter((r) => r.name !== name), { name, wishes }] });
    useWanted.setState({ recipient: name });
    setNaming(null);
  };
  return (
    <section aria-label="Who receives it" className="flex flex-col gap-1.5">
      <Row label="for">
        <select
          aria-label="Recipient"
          value={recipient ?? ''}
          onChange={(event) => take(event.target.value)}
          className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-1 text-ink"
        >
          {recipient === null ? <option value="">these choices</option> : null}
          {all.map(({ name }) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </select>
        {recipient === null ? (
          <Hint text="Remember these choices under a name">
            <Button look="icon" aria-label="Remember these choices" onClick={() => setNaming('')}>
              <Plus size={15} aria-hidden />
            </Button>
          </Hint>
        ) : null}
        {own.some((r) => r.name === recipient) ? (
          <Hint text="Forget this recipient">
            <Button
              look="icon"
              aria-label="Forget this recipient"
              onClick={() => {
                set({ recipients: own.filter((r) => r.name !== recipient) });
                useWanted.setState({ recipient: null });
              }}
            >
              <X size={15} aria-hidden />
            </Button>
          </Hint>
        ) : null}
      </Row>
      {naming === null ? null : (
        <Row label="">
          <input
            aria-label="Name of the recipient"
            value={naming}
            // biome-ignore lint/a11y/noAutofocus: it opens by a press that asks for a name.
            autoFocus
            maxLength={60}
            onChange={(event) => setNaming(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') remember();
              if (event.key === 'Escape') setNaming(null);
              event.stopPropagation();
            }}
            className="h-7 min-w-0 grow rounded-md border border-rule bg-paper px-2 text-ink"
          />
          <Button look="pill" disabled={naming.trim() === ''} onClick={remember}>
            remember
          </Button>
        </Row>
      )}
    </section>
  );
}

function Kind({ wishes }: { wishes: Wishes }) {
  const wish = useWanted((w) => w.wish);
  return (
    <section aria-label="Format" className="mt-3 flex flex-col gap-1 border-t border-rule pt-3">
      <Choice
        label="format"
        value={wishes.format}
        options={formatNames.map((name) => [name, formats[name].label])}
        onChange={(format) => wish({ format })}
      />
      <p className="text-sm text-graphite">{formats[wishes.format].about}</p>
    </section>
  );
}

/** What becomes motions: frames of the shot, clips, and of whom. */
function Motions({ shot, wishes }: { shot: Shot; wishes: Wishes }) {
  const { wish, without } = useWanted();
  const clips = shot.clips.values();
  const rigOf = (id: string) => shot.members.get(id)?.name ?? '';
  const several = new Set(clips.map((c) => c.rig)).size > 1;
  return (
    <section aria-label="Motions" className="mt-3 flex flex-col gap-1.5 border-t border-rule pt-3">
      <Choice
        label="shot"
        value={wishes.frames}
        options={[
          ['play', `plays, ${shot.play.first}–${shot.play.last}`],
          ['whole', `all, ${shot.range.first}–${shot.range.last}`],
          ['none', 'not as a motion'],
        ]}
        onChange={(frames) => wish({ frames })}
      />
      {clips.length === 0 ? null : (
        <fieldset className="flex flex-col gap-0.5">
          <legend className="sr-only">Clips</legend>
          <label className="flex min-h-7 items-center gap-2">
            <span className="w-14 shrink-0 text-graphite">clips</span>
            <input
              type="checkbox"
              className="accent-blue"
              checked={wishes.clips}
              onChange={(event) => wish({ clips: event.target.checked })}
            />
            each as a motion
          </label>
          {wishes.clips
            ? clips.map(({ id, name, rig, length }) => (
                <label key={id} className="ml-16 flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="accent-blue"
                    checked={!without.includes(id)}
                    onChange={(event) =>
                      useWanted.setState({
                        without: event.target.checked ? without.filter((w) => w !== id) : [...without, id],
                      })
                    }
                  />
                  <span className="truncate">
                    {name}
                    {several ? <span className="text-graphite"> · {rigOf(rig)}</span> : null}
                  </span>
                  <span className="tabular ml-auto text-sm text-graphite">{length}</span>
                </label>
              ))
            : null}
        </fieldset>
      )}
      <Choice
        label="of"
        value={wishes.whom}
        options={[
          ['everybody', 'the whole cast'],
          ['rigs', 'the rigs of the clips'],
          ['picked', 'who is picked'],
        ]}
        onChange={(whom) => wish({ whom })}
      />
    </section>
  );
}

const keyWords = { bent: 'few keys, bent', straight: 'few keys, straight', every: 'a key a frame' } as const;

/** How it is written, in few words. */
const howWords = ({ keys, travel, up, format }: Wishes): string =>
  [
    (formats[format].without as readonly string[]).includes('keys') ? 'every frame' : keyWords[keys],
    ...(travel === 'none' ? ['in place'] : []),
    ...(up === 'z' ? ['+Z up'] : []),
  ].join(', ');

/** How it is written: what does not matter in a format is not asked. */
function How({ wishes, rate }: { wishes: Wishes; rate: number }) {
  const wish = useWanted((w) => w.wish);
  const [open, setOpen] = useState(false);
  const without: readonly string[] = formats[wishes.format].without;
  const asksKeys = !without.includes('keys');
  const everyFrame = !asksKeys || wishes.keys === 'every';
  return (
    <details
      className="mt-3 border-t border-rule pt-2"
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="flex min-h-7 cursor-pointer items-center gap-1 rounded text-graphite">
        {open ? <ChevronDown size={13} aria-hidden /> : <ChevronRight size={13} aria-hidden />}
        <span className="truncate">{open ? 'how' : `how: ${howWords(wishes)}`}</span>
      </summary>
      <section aria-label="How" className="mt-1 flex flex-col gap-1.5">
        {asksKeys ? (
          <Choice
            label="keys"
            value={wishes.keys}
            options={[
              ['bent', 'few, bent'],
              ['straight', 'few, straight'],
              ['every', 'every frame'],
            ]}
            onChange={(keys) => wish({ keys })}
          />
        ) : null}
        {everyFrame ? (
          <Row label="rate">
            <NumberField
              label="Frames a second"
              value={wishes.rate ?? rate}
              step={1}
              digits={0}
              min={1}
              max={240}
              onChange={(value) => wish({ rate: value })}
            />
            <span className="text-sm text-graphite">a second</span>
          </Row>
        ) : (
          <Row label="within">
            <NumberField
              label="Tolerance in millimetres"
              value={wishes.tolerance.millimetres}
              unit="mm"
              step={0.01}
              digits={2}
              min={0.001}
              max={100}
              onChange={(millimetres) => wish({ tolerance: { ...wishes.tolerance, millimetres } })}
            />
            <NumberField
              label="Tolerance in degrees"
              value={wishes.tolerance.degrees}
              unit="°"
              step={0.001}
              digits={3}
              min={0.0001}
              max={10}
              onChange={(degrees) => wish({ tolerance: { ...wishes.tolerance, degrees } })}
            />
          </Row>
        )}
        {without.includes('travel') ? null : (
          <Choice
            label="travel"
            value={wishes.travel}
            options={[
              ['node', 'by the rig'],
              ['joint', 'by a joint'],
              ['none', 'in place'],
            ]}
            onChange={(travel) => wish({ travel })}
          />
        )}
        {without.includes('joints') ? null : (
          <Choice
            label="joints"
            value={wishes.joints}
            options={[
              ['all', 'all of them'],
              ['deforming', 'under the body'],
            ]}
            onChange={(joints) => wish({ joints })}
          />
        )}
        {without.includes('placing') ? null : (
          <>
            <Choice
              label="up is"
              value={wishes.up}
              options={[
                ['y', '+Y, as here'],
                ['z', '+Z'],
              ]}
              onChange={(up) => wish({ up })}
            />
            <Row label="1 m is">
              <NumberField
                label="Units a metre"
                value={wishes.scale}
                step={1}
                digits={3}
                min={0.0001}
                max={10_000}
                onChange={(scale) => wish({ scale })}
              />
              <span className="text-sm text-graphite">units</span>
            </Row>
          </>
        )}
        <label className="flex min-h-7 items-center gap-2">
          <span className="w-14 shrink-0 text-graphite">names</span>
          <input
            type="checkbox"
            className="accent-blue"
            checked={wishes.plainNames}
            onChange={(event) => wish({ plainNames: event.target.checked })}
          />
          made plain
        </label>
      </section>
    </details>
  );
}

/** How much there is to know first. It never hinders. */
function RemarksLine() {
  const remarks = useRemarks((r) => r.remarks);
  const faults = remarks?.filter((r) => r.weight === 'fault').length ?? 0;
  const text =
    remarks === null
      ? 'Looking it through…'
      : remarks.length === 0
        ? 'Looked through: nothing to remark.'
        : `${remarks.length} ${remarks.length === 1 ? 'remark' : 'remarks'}${faults > 0 ? `, ${faults} to be seen by whoever receives it` : ''}.`;
  return (
    <p className="flex items-center gap-2 text-sm text-graphite" role="status">
      <span className="grow">{text}</span>
      {remarks && remarks.length > 0 ? (
        <Button className="h-6! text-blue" onClick={() => commandOf('view.remarks').run()}>
          see them
        </Button>
      ) : null}
    </p>
  );
}

/** What was made last of this shot. */
function Latest({ shot }: { shot: Shot }) {
  const job = useMade((m) => m.jobs.find((j) => j.shot === shot.id && j.what.is === 'files'));
  return job ? (
    <section aria-label="Made last" className="mt-2">
      <Made job={job} short />
    </section>
  ) : null;
}
