import { Popover as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

/** A card that hangs on a button and leaves the desk free to be used. */
export function Popover({
  open,
  onOpen,
  trigger,
  label,
  children,
}: {
  open: boolean;
  onOpen: (open: boolean) => void;
  trigger: ReactNode;
  label: string;
  children: ReactNode;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpen}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          side="top"
          align="start"
          sideOffset={6}
          aria-label={label}
          // The desk stays in use: a press on it is for the desk, and the card stays where it is.
          onOpenAutoFocus={(event) => {
            event.preventDefault();
            (event.currentTarget as HTMLElement).querySelector('input')?.focus();
          }}
          onInteractOutside={(event) => event.preventDefault()}
          className="z-20 max-h-[70vh] w-[29rem] overflow-y-auto rounded-xl border border-rule bg-card p-3 shadow-xl"
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
