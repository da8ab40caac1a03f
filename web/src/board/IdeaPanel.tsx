import { changePlan, type Shot } from '@varrup/core';
import { FileAudio, Film, Printer, SquareArrowOutUpRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { HelpMark } from '../help/HelpMark.tsx';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Words } from '../ui/Words.tsx';
import { lengthWords } from './board-view.ts';

/** What work begins with: the idea in a sentence, whom it is for, and what becomes of the board. */
export function IdeaPanel() {
  const shot = useShot((s) => s.shot);
  if (!shot) return null;
  return (
    <section
      aria-label="Idea"
      data-explained="Idea"
      className="flex h-full flex-col overflow-y-auto bg-card px-4 pt-3 pb-2"
    >
      <h2 className="flex items-center pb-1 font-semibold">
        <span className="grow">Idea</span>
        <HelpMark of="Idea" />
      </h2>
      <Plan shot={shot} />
    </section>
  );
}

function Plan({ shot }: { shot: Shot }) {
  const run = useShot((s) => s.run);
  const { idea, audience, leads } = shot.plan;
  return (
    <>
      <Words
        label="The idea in a sentence"
        value={idea}
        most={600}
        lines={6}
        placeholder="A porter heaves a sack that is too heavy for him, and is carried off by it."
        onChange={(text) => run(changePlan, { change: { idea: text } })}
      />
      <h3 className="mt-3 mb-1 text-sm text-graphite">Who is it for?</h3>
      <Words
        label="Who is it for?"
        value={audience}
        most={300}
        lines={3}
        placeholder="Whoever has carried something up a quay"
        onChange={(text) => run(changePlan, { change: { audience: text } })}
      />
      <h3 className="mt-4 border-t border-rule pt-2 text-sm text-graphite">Board</h3>
      <p className="tabular mt-1">
        {shot.panels.size === 0
          ? 'no panels yet'
          : `${shot.panels.size === 1 ? 'one panel' : `${shot.panels.size} panels`} · ${lengthWords(shot)}`}
      </p>
      <label className="mt-2 flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1"
          checked={leads}
          onChange={(event) => run(changePlan, { change: { leads: event.target.checked } })}
        />
        the shot is as long as its panels
      </label>
      <div className="mt-3 flex flex-col items-stretch gap-1.5">
        <Act id="board.toShots" sign={<SquareArrowOutUpRight size={14} />} word="become shots" />
        <Act id="board.movie" sign={<Film size={14} />} word="animatic" />
        <Act id="board.print" sign={<Printer size={14} />} word="page to print" />
        <Act id="cast.file" sign={<FileAudio size={14} />} word="sound, footage…" />
      </div>
    </>
  );
}

function Act({ id, sign, word }: { id: string; sign: ReactNode; word: string }) {
  const command = commandOf(id);
  return (
    <Hint text={command.label} keys={shortcutOf(id)} side="right">
      <Button
        look="pill"
        className="w-full text-left"
        disabled={command.enabled?.() === false}
        onClick={() => command.run()}
      >
        <span className="flex items-center gap-2 [&>svg]:shrink-0">
          {sign} <span className="truncate">{word}</span>
        </span>
      </Button>
    </Hint>
  );
}
