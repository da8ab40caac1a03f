/** Something an animator can do: found in the palette by its words, bound to a shortcut, shown in hints. */
export interface AppCommand {
  readonly id: string;
  /** What it does, in plain words. */
  readonly label: string;
  readonly group:
    | 'Keys'
    | 'Time'
    | 'Spacing'
    | 'View'
    | 'Cast'
    | 'Turning'
    | 'Curves'
    | 'Checks'
    | 'Kits'
    | 'Poses'
    | 'Clips'
    | 'Sounds'
    | 'Plan'
    | 'Review'
    | 'Shot';
  /** Its first shortcut, as `Ctrl+Shift+Z`; none for what is rarely done. */
  readonly shortcut?: string;
  readonly run: () => void;
  /** For what goes on while the key is held: called when it is let go. */
  readonly release?: () => void;
  readonly enabled?: () => boolean;
  /** Its key is its own only then; otherwise the key is whoever's has the focus. */
  readonly onlyWhile?: () => boolean;
}

/** A key press as shortcuts are written. Letters by what is printed on the key; Cmd counts as Ctrl. */
export function pressed(
  event: Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>,
): string {
  const name = names[event.key] ?? (event.key.length === 1 ? letter(event) : event.key);
  const parts: string[] = [];
  if (event.ctrlKey || event.metaKey) parts.push('Ctrl');
  if (event.altKey) parts.push('Alt');
  // For ? and / the shift is part of the sign itself.
  if (event.shiftKey && (event.key.length > 1 || /[a-z0-9 ]/i.test(name))) parts.push('Shift');
  return [...parts, name].join('+');
}

const names: Record<string, string> = {
  ' ': 'Space',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ContextMenu: 'Shift+F10',
};

const letter = (event: { key: string; code: string; altKey: boolean }) => {
  // With Alt some layouts print other signs, and with Shift as well digits print theirs: the key itself is meant.
  const plain = /^Key([A-Z])$/.exec(event.code) ?? /^Digit(\d)$/.exec(event.code);
  if (/[a-z0-9]/i.test(event.key)) return event.key.toUpperCase();
  if (event.altKey && plain) return plain[1];
  return event.key.charCodeAt(0) < 128 ? event.key : (plain?.[1] ?? event.key);
};
