import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';

/** What a control does and its shortcut, on hover and on focus. */
export function Hint({
  text,
  keys,
  side,
  children,
}: {
  text: string;
  keys?: string;
  side?: 'top' | 'bottom' | 'left' | 'right';
  children: ReactNode;
}) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side={side ?? 'bottom'}
          sideOffset={6}
          className="z-50 max-w-72 rounded-md bg-ink px-2 py-1 text-sm text-on-solid shadow-md select-none"
        >
          {text}
          {keys ? <kbd className="tabular ml-2 opacity-80">{keys}</kbd> : null}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
