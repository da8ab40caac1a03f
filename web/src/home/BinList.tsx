import { useQuery } from '@tanstack/react-query';
import { Trash2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { api } from '../api/client.ts';
import { Button } from '../ui/Button.tsx';
import { useActions } from './actions.ts';

/** So many are shown at first, and so many more each time they are asked for. */
const AT_ONCE = 50;

/** What is in the bin, with a way back for each. */
export function BinList() {
  const actions = useActions();
  const { data: bin } = useQuery({ queryKey: ['bin'], queryFn: api.bin });
  const [isOpen, setOpen] = useState(false);
  const [count, setCount] = useState(AT_ONCE);
  if (!bin || bin.total === 0) return null;
  return (
    <details className="border-t border-rule pt-3" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="flex cursor-default items-center gap-2 text-graphite">
        <Trash2 size={14} /> bin: {bin.total === 1 ? 'one thing' : `${bin.total} things`}
      </summary>
      {isOpen ? (
        <ul className="mt-2 max-w-xl">
          {bin.items.slice(0, count).map((item) => (
            <li key={item.id} className="flex h-8 items-center justify-between gap-3">
              <span className="truncate">
                {item.name}{' '}
                <span className="text-graphite">
                  {item.type === 'shot' ? `shot of ${item.production}` : 'production'}
                </span>
              </span>
              <Button
                look="pill"
                className="flex h-6! items-center gap-1 text-sm"
                onClick={() => actions.bringBack(item.type === 'shot' ? 'shots' : 'productions', item.id)}
              >
                <Undo2 size={12} /> bring back
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      {isOpen && count < bin.items.length ? (
        <Button look="pill" className="mt-2" onClick={() => setCount(count + AT_ONCE)}>
          show {Math.min(AT_ONCE, bin.items.length - count)} more
        </Button>
      ) : null}
    </details>
  );
}
