import { Popover as Radix } from 'radix-ui';
import { shortcutOf } from '../commands/list.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { openFirstShot } from './first-shot.ts';
import { panelHelp } from './texts.ts';
import { Words } from './Words.tsx';
import { useExplained } from './what-is-this.ts';

/** The small question mark of a panel: what is this? */
export function HelpMark({ of, className = '' }: { of: string; className?: string }) {
  const open = useExplained((e) => e.panel === of);
  const { explain } = useExplained.getState();
  const help = panelHelp.get(of);
  if (!help) return null;
  return (
    <Radix.Root open={open} onOpenChange={(next) => explain(next ? of : null)}>
      <Hint text={`What is this? The ${of.toLowerCase()}`} keys={shortcutOf('help.here')}>
        <Radix.Trigger asChild>
          <button
            type="button"
            aria-label={`What is this? The ${of.toLowerCase()}`}
            className={`grid size-4 shrink-0 place-items-center rounded-full border border-rule bg-card text-xs text-graphite hover:border-blue hover:text-blue aria-expanded:bg-blue-wash aria-expanded:text-blue ${className}`}
          >
            ?
          </button>
        </Radix.Trigger>
      </Hint>
      <Radix.Portal>
        <Radix.Content
          collisionPadding={8}
          sideOffset={6}
          aria-label={`What is this? The ${of.toLowerCase()}`}
          className="z-40 w-80 rounded-xl border border-rule bg-card p-3.5 shadow-xl"
        >
          <h2 className="font-semibold">{of}</h2>
          <p className="mt-1">
            <Words text={help.about} />
          </p>
          <p className="mt-2 text-sm text-graphite">
            <span className="font-medium text-ink">Go on: </span>
            <Words text={help.goOn} />
          </p>
          <div className="mt-2.5 flex gap-2">
            <Radix.Close asChild>
              <Button look="pill">close</Button>
            </Radix.Close>
            <Button
              onClick={() => {
                explain(null);
                openFirstShot();
              }}
            >
              first shot, step by step
            </Button>
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
