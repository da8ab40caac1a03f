import { useEffect, useState } from 'react';
import { useTiming } from '../view/timing.ts';
import { timeScale } from './time-axis.ts';

/** Where frames are in a row over or under the sheet. The row may come and go: `setBox` is its `ref`. */
export function useTimeScale() {
  const span = useTiming((s) => s.span);
  const [box, setBox] = useState<HTMLDivElement | null>(null);
  const [width, setWidth] = useState(600);
  useEffect(() => {
    if (!box) return;
    setWidth(box.clientWidth);
    const watch = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    watch.observe(box);
    return () => watch.disconnect();
  }, [box]);
  const x = timeScale(span, width);
  return { setBox, x, span, width, perFrame: x(1) - x(0) };
}
