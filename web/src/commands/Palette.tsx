import { Command } from 'cmdk';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { select } from '../view/selection.ts';
import { type Found, found, frameTyped, grouped } from './found.ts';
import { commands, shortcutOf } from './list.ts';

const ITEM =
  'flex h-7 items-center justify-between rounded-md px-2 data-[disabled=true]:opacity-40 data-[selected=true]:bg-blue-wash';
const GROUP =
  '[content-visibility:auto] [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-graphite';

/** How many commands, and how many of the cast, are offered for what is typed. */
const COMMANDS = 24;
const BODIES = 8;

/** Every command and everybody in the shot, found by a plain word; a number is a frame to go to. */
export function Palette() {
  const open = useQuestion((q) => q.open === 'palette');
  const ask = useQuestion((q) => q.ask);
  const [typed, setTyped] = useState('');
  const offered = found(
    commands.filter((c) => c.id !== 'shot.palette'),
    (c) => `${c.label} ${c.id}`,
    typed,
    COMMANDS,
  );
  const bodies = useBodies(typed);
  const bodiesFirst = (bodies[0]?.score ?? 0) > (offered[0]?.score ?? 0);
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(next) => ask(next ? 'palette' : null)}
      label="Find a command"
      // What is found is reckoned here, so that no more is drawn than anybody reads.
      shouldFilter={false}
      overlayClassName="fixed inset-0 z-30 bg-ink/20"
      contentClassName="fixed top-24 left-1/2 z-40 w-[34rem] max-w-[94vw] -translate-x-1/2 overflow-hidden rounded-xl border border-rule bg-card shadow-2xl"
    >
      <Command.Input
        value={typed}
        onValueChange={setTyped}
        placeholder="what do you want to do? A number is a frame"
        className="h-11 w-full border-b border-rule bg-transparent px-4 text-[15px] outline-none"
      />
      <Command.List className="max-h-[52vh] overflow-y-auto p-1.5">
        <FrameTyped typed={typed} />
        <Command.Empty className="p-4 text-graphite">
          Nothing is called that. Try another word: key, play, curve, hide…
        </Command.Empty>
        {bodiesFirst ? <Bodies found={bodies} /> : null}
        {grouped(offered, (c) => c.group).map(([group, ones]) => (
          <Command.Group key={group} heading={group} className={GROUP}>
            {ones.map((c) => (
              <Command.Item
                key={c.id}
                value={c.id}
                disabled={c.enabled ? !c.enabled() : false}
                onSelect={() => {
                  ask(null);
                  c.run();
                }}
                className={ITEM}
              >
                {c.label}
                <kbd className="tabular text-sm text-graphite">{shortcutOf(c.id)}</kbd>
              </Command.Item>
            ))}
          </Command.Group>
        ))}
        {bodiesFirst ? null : <Bodies found={bodies} />}
      </Command.List>
    </Command.Dialog>
  );
}

interface Body {
  readonly id: string;
  readonly words: string;
}

/** Those of the cast, and the controls of rigs, that answer to what is typed. */
function useBodies(typed: string): Found<Body>[] {
  const shot = useShot((s) => s.shot);
  if (!shot || typed.trim() === '') return [];
  const all = shot.members.values().map(({ id, name, kind, parent }) => ({
    id,
    words: `Pick ${kind === 'control' && parent !== null ? `${shot.members.at(parent).name}: ${name}` : name}`,
  }));
  return found(all, ({ words }) => words, typed, BODIES);
}

/** Whoever was found, to be picked. */
function Bodies({ found: bodies }: { found: readonly Found<Body>[] }) {
  if (bodies.length === 0) return null;
  return (
    <Command.Group heading="Who is here" className={GROUP}>
      {bodies.map(({ is: { id, words } }) => (
        <Command.Item
          key={id}
          value={`pick ${id}`}
          className={ITEM}
          onSelect={() => {
            useQuestion.getState().ask(null);
            select([id]);
          }}
        >
          {words}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

/** Going to the frame that is typed. */
function FrameTyped({ typed }: { typed: string }) {
  const range = useShot((s) => s.shot?.range);
  const rate = useShot((s) => s.shot?.rate ?? 24);
  const frame = frameTyped(typed, rate);
  if (frame === null || !range) return null;
  const inside = frame >= range.first && frame <= range.last;
  return (
    <Command.Item
      value="frame"
      disabled={!inside}
      className={ITEM}
      onSelect={() => {
        useQuestion.getState().ask(null);
        usePlayhead.getState().go(frame);
      }}
    >
      {inside
        ? `Go to frame ${frame} · ${((frame - 1) / rate).toFixed(2)} s`
        : `Frame ${frame} is not in this shot: it goes from ${range.first} to ${range.last}`}
    </Command.Item>
  );
}
