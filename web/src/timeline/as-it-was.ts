import type { Shot } from '@varrup/core';
import { useCompare } from '../review/compare.ts';
import { useShot } from '../shot/shot-store.ts';
import { useCurveView } from '../view/curve-view.ts';

/** The shot whose curves are drawn behind those of now; null for none. Another shot has other curves: only its pictures are compared. */
export function useAsItWas(): Shot | null {
  const behind = useCurveView((s) => s.behind);
  const opened = useShot((s) => s.opened);
  const beside = useCompare((c) => (c.with?.is === 'shot' ? null : c.other));
  return behind === 'opened' ? opened : behind === 'beside' ? beside : null;
}
