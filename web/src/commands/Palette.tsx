import { Command } from 'cmdk';
import { useQuestion } from '../view/questions.ts';
import { answers } from './found.ts';
import { commands, keysOf } from './list.ts';

/** Every command, found by a plain word. */
export function Palette() {
  const open = useQuestion((q) => q.open === 'palette');
  const ask = useQuestion((q) => q.ask);
  const groups = [...new Set(commands.map((c) => c.group))];
  return (
    <Command.Dialog
      open={open}
      onOpenChange={(next) => ask(next ? 'palette' : null)}
      label="Find a command"
      filter={answers}
      overlayClassName="fixed inset-0 z-30 bg-ink/20"
      contentClassName="fixed top-24 left-1/2 z-40 w-[34rem] max-w-[94vw] -translate-x-1/2 overflow-hidden rounded-xl border border-rule bg-card shadow-2xl"
    >
      <Command.Input
        placeholder="what do you want to do?"
        className="h-11 w-full border-b border-rule bg-transparent px-4 text-[15px] outline-none"
      />
      <Command.List className="max-h-[52vh] overflow-y-auto p-1.5">
        <Command.Empty className="p-4 text-graphite">
          Nothing is called that. Try another word: key, play, curve, hide…
        </Command.Empty>
        {groups.map((group) => (
          <Command.Group
            key={group}
            heading={group}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-graphite"
          >
            {commands
              .filter((c) => c.group === group && c.id !== 'shot.palette')
              .map((c) => (
                <Command.Item
                  key={c.id}
                  value={`${c.label} ${c.id}`}
                  disabled={c.enabled ? !c.enabled() : false}
                  onSelect={() => {
                    ask(null);
                    c.run();
                  }}
                  className="flex h-7 items-center justify-between rounded-md px-2 data-[disabled=true]:opacity-40 data-[selected=true]:bg-blue-wash"
                >
                  {c.label}
                  <kbd className="tabular text-sm text-graphite">{keysOf(c.id)}</kbd>
                </Command.Item>
              ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
