import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

export const menuLook =
  'z-40 max-h-[70vh] min-w-44 overflow-y-auto rounded-lg border border-rule bg-card p-1 shadow-lg';

/** A menu that drops from a button. */
export function Menu({
  trigger,
  children,
  align = 'start',
}: {
  trigger: ReactNode;
  children: ReactNode;
  align?: 'start' | 'end';
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align={align} sideOffset={4} className={menuLook}>
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

const itemLook =
  'flex min-h-7 items-center gap-2 rounded-md px-2 outline-none select-none data-[highlighted]:bg-blue-wash data-[disabled]:opacity-40';

export function MenuItem({
  onPick,
  children,
  keys,
  disabled,
  checked,
}: {
  onPick: () => void;
  children: ReactNode;
  keys?: string;
  disabled?: boolean;
  checked?: boolean;
}) {
  const inside = (
    <>
      <span className="w-3 text-blue" aria-hidden>
        {checked ? '•' : ''}
      </span>
      <span className="grow">{children}</span>
      {keys ? <kbd className="tabular text-sm text-graphite">{keys}</kbd> : null}
    </>
  );
  if (checked === undefined) {
    return (
      <DropdownMenu.Item disabled={disabled} onSelect={onPick} className={itemLook}>
        {inside}
      </DropdownMenu.Item>
    );
  }
  return (
    <DropdownMenu.CheckboxItem checked={checked} disabled={disabled} onSelect={onPick} className={itemLook}>
      {inside}
    </DropdownMenu.CheckboxItem>
  );
}

export const MenuLine = () => <DropdownMenu.Separator className="my-1 h-px bg-rule" />;
export const MenuWord = ({ children }: { children: ReactNode }) => (
  <DropdownMenu.Label className="px-2 pt-1 text-xs text-graphite">{children}</DropdownMenu.Label>
);
