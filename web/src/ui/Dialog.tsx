import { X } from 'lucide-react';
import { Dialog as Radix } from 'radix-ui';
import { type FormEvent, type ReactNode, useState } from 'react';
import { Button } from './Button.tsx';

/** A card over the desk that asks for something. */
export function Dialog({
  open,
  onClose,
  title,
  about,
  children,
  wide,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  about?: string;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-ink/25" />
        <Radix.Content
          className={`fixed top-1/2 left-1/2 z-40 max-h-[90vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-xl border border-rule bg-card p-5 shadow-2xl ${wide ? 'w-[46rem]' : 'w-[26rem]'} max-w-[94vw]`}
          aria-describedby={about ? undefined : ''}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Radix.Title className="text-[15px] font-semibold">{title}</Radix.Title>
              {about ? <Radix.Description className="mt-1 text-graphite">{about}</Radix.Description> : null}
            </div>
            <Radix.Close asChild>
              <Button look="icon" aria-label="Close">
                <X size={16} />
              </Button>
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** Asks for a name. */
export function NameDialog({
  title,
  label,
  initial = '',
  action,
  onName,
  onClose,
  children,
}: {
  title: string;
  label: string;
  initial?: string;
  action: string;
  onName: (name: string) => void;
  onClose: () => void;
  /** What else is asked, under the name. */
  children?: ReactNode;
}) {
  const [name, setName] = useState(initial);
  const problem = name.trim() === '' ? 'Give it a name.' : name.trim().length > 80 ? 'Keep it to 80 characters.' : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (problem) return;
    onName(name.trim());
    onClose();
  };
  return (
    <Dialog open onClose={onClose} title={title}>
      <form onSubmit={submit}>
        <label className="block text-graphite">
          {label}
          <input
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
            onFocus={(event) => event.target.select()}
            className="mt-1 block h-9 w-full rounded-md border border-rule bg-paper px-3 text-ink"
          />
        </label>
        {children}
        <div className="mt-4 flex items-center justify-end gap-3">
          <span className="text-sm text-vermilion-ink" role="status">
            {name.length > 80 ? problem : ''}
          </span>
          <Button look="solid" type="submit" disabled={problem !== null}>
            {action}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
