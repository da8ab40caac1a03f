import type { Shot } from '@varrup/core';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';
import { LeaningPeg } from './Glyph.tsx';

/** Says what is loose, and lets it be keyed or dropped with one press. */
export function LooseBar({ shot }: { shot: Shot }) {
  const lead = useSelection((s) => s.picked.at(-1));
  const now = usePlayhead((p) => p.settled);
  const paths = shot.loose.keys();
  if (paths.length === 0) return null;
  const [first] = paths;
  const dot = first.indexOf('.');
  const words = first.slice(dot + 1).replace('.', ' ');
  const id = first.slice(0, dot);
  const who = id === lead ? '' : `${shot.members.get(id)?.name}: `;
  const frames = [...new Set(shot.loose.values().flatMap((list) => list.map((change) => change.frame)))];
  const elsewhere = frames.filter((frame) => Math.abs(frame - now) > 1e-6).sort((a, b) => a - b);
  const where = elsewhere.length > 0 ? ` at ${frames.length > 3 ? `${frames.length} frames` : frames.join(', ')}` : '';
  const text = (paths.length === 1 ? `${who}${words} is loose` : `${paths.length} channels are loose`) + where;
  return (
    <div
      role="status"
      className="m-2 flex flex-wrap items-center justify-end gap-1 rounded-lg border border-graphite hatched px-2 py-1.5"
    >
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden className="shrink-0">
        <LeaningPeg />
      </svg>
      <span className={`min-w-0 grow truncate italic ${elsewhere.length > 0 ? 'basis-full' : ''}`} title={text}>
        {text}
      </span>
      {elsewhere.length > 0 ? (
        <Hint text={`Go to ${elsewhere[0]}, where it was changed`}>
          <Button className="h-6! px-1.5!" onClick={() => usePlayhead.getState().go(elsewhere[0])}>
            show
          </Button>
        </Hint>
      ) : null}
      <Hint text={commandOf('loose.drop').label} keys={shortcutOf('loose.drop')}>
        <Button className="h-6! px-1.5!" onClick={() => commandOf('loose.drop').run()}>
          drop
        </Button>
      </Hint>
      <Hint text={commandOf('key.loose').label} keys={shortcutOf('key.loose')}>
        <Button look="solid" className="h-6! px-2.5!" onClick={() => commandOf('key.loose').run()}>
          key
        </Button>
      </Hint>
    </div>
  );
}
