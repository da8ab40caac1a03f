import { commandOf, shortcutOf } from '../commands/list.ts';
import { HelpMark } from '../help/HelpMark.tsx';
import { Hint } from '../ui/Hint.tsx';
import { walkTabs } from '../ui/walk-tabs.ts';
import { usePlaces } from '../view/places.ts';
import { LargeButton } from './LargeButton.tsx';
import { headingOf, type PanelId, panelOf, shownAmong } from './panels.ts';

/** The signs, with their words, of what can stand beside the stage: at the outer edge, so that more can come. */
export function Rail({ among }: { among: readonly PanelId[] }) {
  const side = usePlaces((s) => s.side);
  return (
    <div className="flex w-14 shrink-0 flex-col border-l border-rule bg-paper p-1">
      <div
        role="tablist"
        aria-label="Beside the stage"
        aria-orientation="vertical"
        onKeyDown={walkTabs}
        className="flex min-h-0 grow flex-col gap-0.5 overflow-y-auto"
      >
        {among.map((id) => {
          const { word, sign: Sign, Badge } = panelOf(id);
          return (
            <Hint key={id} text={commandOf(`view.${id}`).label} keys={shortcutOf(`view.${id}`)} side="left">
              <button
                type="button"
                role="tab"
                aria-selected={shownAmong(side, among) === id}
                onClick={() => commandOf(`view.${id}`).run()}
                className="relative flex h-12 shrink-0 flex-col items-center justify-center gap-0.5 rounded-lg text-xs text-graphite hover:bg-well aria-selected:bg-card aria-selected:font-semibold aria-selected:text-ink aria-selected:shadow-sm"
              >
                <Sign size={16} strokeWidth={1.75} aria-hidden />
                {word}
                {Badge ? <Badge /> : null}
              </button>
            </Hint>
          );
        })}
      </div>
      <span className="flex shrink-0 items-center justify-center gap-1 py-1">
        <HelpMark of={headingOf(panelOf(shownAmong(side, among)))} />
        <LargeButton place="beside" />
      </span>
    </div>
  );
}

/** The views of timing, as a row. */
export function Tabs({ among }: { among: readonly PanelId[] }) {
  const tab = usePlaces((s) => s.tab);
  return (
    <div role="tablist" aria-label="Views of timing" className="flex gap-1" onKeyDown={walkTabs}>
      {among.map((id) => (
        <Hint key={id} text={commandOf(`view.${id}`).label} keys={shortcutOf(`view.${id}`)}>
          <button
            type="button"
            role="tab"
            aria-selected={shownAmong(tab, among) === id}
            onClick={() => commandOf(`view.${id}`).run()}
            className="h-8 border-b-2 border-transparent px-2 text-graphite aria-selected:border-ink aria-selected:font-semibold aria-selected:text-ink"
          >
            {panelOf(id).word}
          </button>
        </Hint>
      ))}
    </div>
  );
}
