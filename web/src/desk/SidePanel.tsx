import { Channels, LooseBar } from '../channels/ChannelsPanel.tsx';
import { SetsPanel } from '../channels/SetsPanel.tsx';
import { ChecksPanel } from '../checks/ChecksPanel.tsx';
import { useFindings } from '../checks/findings.ts';
import { ClipsPanel } from '../clips/ClipsPanel.tsx';
import { HelpMark } from '../help/HelpMark.tsx';
import { KitsPanel, useCooking } from '../kits/KitsPanel.tsx';
import { PosesPanel } from '../poses/PosesPanel.tsx';
import { useShot } from '../shot/shot-store.ts';
import { Spacing } from '../spacing/Spacing.tsx';
import { walkTabs } from '../ui/walk-tabs.ts';
import { usePlayhead } from '../view/playhead.ts';
import { type Side, useView } from '../view/view-store.ts';

const sides: readonly Side[] = ['channels', 'poses', 'clips', 'sets', 'kits', 'checks'];

/** What stands beside the stage: the channels of what is picked, control sets, kits, and what the checks have found. */
export function SidePanel() {
  const shot = useShot((s) => s.shot);
  const lead = useView((v) => v.selection.at(-1));
  const side = useView((v) => v.side);
  usePlayhead((p) => p.settled);
  const member = lead ? shot?.members.get(lead) : undefined;
  if (!shot) return null;
  return (
    <section
      aria-label="Beside the stage"
      data-explained={titled(side)}
      className="relative flex h-full flex-col bg-card"
    >
      <div role="tablist" aria-label="Beside the stage" className="flex shrink-0 px-1" onKeyDown={walkTabs}>
        {sides.map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={side === name}
            onClick={() => useView.getState().set({ side: name })}
            className="relative flex h-8 items-center border-b-2 border-transparent px-[2.5px] text-sm text-graphite aria-selected:border-ink aria-selected:font-semibold aria-selected:text-ink"
          >
            {name}
            {name === 'checks' ? <Count /> : null}
            {name === 'kits' ? <DraftMark /> : null}
          </button>
        ))}
      </div>
      <HelpMark of={titled(side)} className="absolute top-2 right-1" />
      {side === 'poses' ? <PosesPanel shot={shot} /> : null}
      {side === 'clips' ? <ClipsPanel shot={shot} /> : null}
      {side === 'sets' ? <SetsPanel shot={shot} /> : null}
      {side === 'kits' ? <KitsPanel /> : null}
      {side === 'checks' ? <ChecksPanel shot={shot} /> : null}
      {side === 'channels' && member ? <Channels shot={shot} member={member} /> : null}
      {side === 'channels' && !member ? (
        <p className="p-4 text-graphite">Pick something in the stage or in the cast to see its channels.</p>
      ) : null}
      {side === 'channels' ? <Spacing /> : null}
      <LooseBar shot={shot} />
    </section>
  );
}

/** A side's name as a panel has it. */
const titled = (side: Side): string => side.charAt(0).toUpperCase() + side.slice(1);

/** Says that a kit is on the table. */
function DraftMark() {
  const isDrafted = useCooking((c) => c.recipe !== null);
  if (!isDrafted) return null;
  return (
    <span className="absolute top-1 right-0 size-1.5 rounded-full bg-ochre" title="A kit is shown and not written yet">
      <span className="sr-only">, a kit is shown</span>
    </span>
  );
}

/** How many findings there are. */
function Count() {
  const count = useFindings((f) => f.findings.length);
  const done = useFindings((f) => f.state === 'done');
  if (count === 0)
    return done ? (
      <span className="ml-1 text-moss-ink" title="The checks find nothing">
        ✓<span className="sr-only"> nothing found</span>
      </span>
    ) : null;
  return (
    <span className="tabular ml-1 min-w-4 rounded-full bg-vermilion-ink px-1 text-center text-xs leading-4 text-on-solid">
      {count}
      <span className="sr-only"> findings</span>
    </span>
  );
}
