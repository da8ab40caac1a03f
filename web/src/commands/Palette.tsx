import { Command } from 'cmdk';
import { useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { select } from '../view/selection.ts';
import { answers, frameTyped } from './found.ts';
import { commands, shortcutOf } from './list.ts';

const ITEM =
  'flex h-7 items-center justify-between rounded-md px-2 data-[disabled=true]:opacity-40 data-[selected=true]:bg-blue-wash';
const GROUP =
  '[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-graphite';

/** Every command and everybody in the shot, found by a plain word; a number is a frame to go to. */
export function Palette() {
  const open = useQuestion((q) => q.open === 'palette');
  const ask = useQuestion((q) => q.ask);
  const [typed, setTyped] = useState('');
  const groups = [...new Set(commands.map((c) => c.group))];
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(next) => {
        setTyped('');
        ask(next ? 'palette' : null);
      }}
      label="Find a command"
      filter={answers}
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
        {groups.map((group) => (
          <Command.Group key={group} heading={group} className={GROUP}>
            {commands
              .filter((c) => c.group === group && c.id !== 'shot.palette')
              .map((c) => (
                <Command.Item
                  key={c.id}
                  value={`${c.label} ${c.id}`}
                  disabled={c.enabled ? !c.enabled() : false}
                  onSelect={() => {
                    setTyped('');
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
        <Bodies typed={typed} />
      </Command.List>
    </Command.Dialog>
  );
}

/** How many of the cast are offered. */
const BODIES = 8;

/** Those of the cast, and the controls of rigs, that answer to what is typed: to be picked. */
function Bodies({ typed }: { typed: string }) {
  const shot = useShot((s) => s.shot);
  if (!shot || typed.trim() === '') return null;
  const called = (id: string) => {
    const { name, kind, parent } = shot.members.at(id);
    return kind === 'control' && parent !== null ? `${shot.members.at(parent).name}: ${name}` : name;
  };
  const found = [...shot.members.keys()]
    .map((id) => ({ id, words: `Pick ${called(id)}`, score: answers(`pick ${called(id)}`, typed) }))
    .filter((f) => f.score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, BODIES);
  if (found.length === 0) return null;
  return (
    <Command.Group heading="Who is here" className={GROUP}>
      {found.map(({ id, words }) => (
        <Command.Item
          key={id}
          value={`${words} ${id}`}
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
      // What it is called is what is typed, so that it answers best.
      value={typed}
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
