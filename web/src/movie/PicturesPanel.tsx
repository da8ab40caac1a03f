import type { Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { Pictures } from './Pictures.tsx';

/** Movies and pictures, where work is handed on. */
export function PicturesPanel({ shot }: { shot: Shot }) {
  const committed = useShot((s) => s.committed) ?? shot;
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 py-3">
      <Pictures shot={committed} narrow />
    </div>
  );
}
