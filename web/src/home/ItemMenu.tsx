import { MoreHorizontal } from 'lucide-react';
import { Button } from '../ui/Button.tsx';
import { Menu, MenuItem, MenuLine } from '../ui/Menu.tsx';
import { useActions } from './actions.ts';

/** The menu of a production or a shot. @param onArchive opens a shot out of an archive; a shot itself cannot */
export function ItemMenu({
  kind,
  item,
  onArchive,
}: {
  kind: 'productions' | 'shots';
  item: { readonly id: string; readonly name: string };
  onArchive?: () => void;
}) {
  const actions = useActions();
  return (
    <Menu
      align="end"
      trigger={
        <Button look="icon" aria-label={`More about ${item.name}`} title="Rename, duplicate, bin">
          <MoreHorizontal size={16} />
        </Button>
      }
    >
      {onArchive ? <MenuItem onPick={onArchive}>open an archive…</MenuItem> : null}
      <MenuItem onPick={() => actions.rename(kind, item)}>rename…</MenuItem>
      <MenuItem onPick={() => actions.duplicate(kind, item)}>duplicate</MenuItem>
      <MenuLine />
      <MenuItem onPick={() => actions.toBin(kind, item)}>to the bin</MenuItem>
    </Menu>
  );
}
