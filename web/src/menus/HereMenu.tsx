import { DropdownMenu } from 'radix-ui';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { MenuItem, MenuLine, menuLook } from '../ui/Menu.tsx';
import { type Meant, useHere } from './here.ts';

/** What the menus hold: commands, in groups. A command that cannot be done now is left out. */
const items: Readonly<Record<Meant, readonly (readonly string[])[]>> = {
  keys: [
    ['shape.smooth', 'shape.flat', 'shape.linear', 'shape.stepped', 'shape.sharp', 'keys.breakdown'],
    ['shape.copy', 'shape.give', 'keys.copy', 'keys.paste', 'keys.pasteMirrored'],
    ['time.retime', 'time.reverse', 'time.whole', 'curves.frameKeys'],
    ['keys.cut', 'keys.delete'],
  ],
  channels: [
    ['key.picked', 'channel.rest', 'set.make'],
    ['view.curves', 'view.formula'],
    ['extend.after.hold', 'extend.after.cycle', 'extend.after.travel', 'extend.after.swing'],
    ['turn.unroll', 'channel.clear', 'channel.remove'],
  ],
  members: [
    ['key.all', 'key.move', 'key.turn', 'key.loose', 'loose.drop'],
    ['rest.all', 'pose.copy', 'pose.paste', 'pose.pasteMirrored', 'limb.switch', 'rig.plant'],
    ['cast.rename', 'cast.parent', 'cast.hold', 'cast.pivot', 'view.channels', 'view.kits', 'view.selected'],
    [
      'cast.group',
      'cast.duplicate',
      'cast.copies',
      'cast.break',
      'cast.rigOf',
      'cast.hide',
      'cast.lock',
      'cast.delete',
    ],
  ],
};

export function HereMenu() {
  const open = useHere((h) => h.open);
  if (!open) return null;
  const { close } = useHere.getState();
  const groups = items[open.meant]
    .map((ids) => ids.map(commandOf).filter((c) => c.enabled?.() ?? true))
    .filter((group) => group.length > 0);
  return (
    <DropdownMenu.Root open onOpenChange={(stays) => !stays && close()}>
      <DropdownMenu.Trigger asChild>
        <span className="pointer-events-none fixed size-0" style={{ left: open.x, top: open.y }} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          className={menuLook}
          aria-label={`Menu of ${open.title}`}
          onCloseAutoFocus={(event) => event.preventDefault()}
          onContextMenu={(event) => event.preventDefault()}
        >
          <DropdownMenu.Label className="max-w-72 truncate px-2 pt-1 pb-0.5 text-sm font-semibold">
            {open.title}
          </DropdownMenu.Label>
          {groups.map((group, i) => (
            <DropdownMenu.Group key={group[0].id}>
              {i > 0 ? <MenuLine /> : null}
              {group.map(({ id, label, run }) => (
                <MenuItem key={id} keys={shortcutOf(id)} onPick={run}>
                  {label}
                </MenuItem>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
