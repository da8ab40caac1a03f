import { commands, shortcutOf } from '../commands/list.ts';

/** A text of the help: `keys` as keys, *words* of the desk in italics. A shortcut one has changed is said as it is now. */
export function Words({ text }: { text: string }) {
  // Parts are told apart by where they stand; none comes or goes while the text is shown.
  const parts = text.split(/(`[^`]+`|\*[^*]+\*)/);
  let at = 0;
  return parts.map((part) => {
    const key = at++;
    if (part.startsWith('`')) {
      return (
        <kbd key={key} className="tabular rounded border border-rule bg-well px-1 text-[0.92em]">
          {keysNow(part.slice(1, -1))}
        </kbd>
      );
    }
    return part.startsWith('*') ? <em key={key}>{part.slice(1, -1)}</em> : part;
  });
}

function keysNow(keys: string): string {
  const command = commands.find((c) => c.shortcut === keys);
  return (command && shortcutOf(command.id)) ?? keys;
}
