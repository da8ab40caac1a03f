import { useVirtualizer } from '@tanstack/react-virtual';
import type { ListQuery, Production } from '@varrup/core';
import { type RefObject, useMemo, useRef } from 'react';
import { useSize } from '../ui/use-size.ts';
import { cardLayout, productionHeight } from './layout.ts';
import { ProductionSection } from './ProductionSection.tsx';

/** The productions, one under the other; those out of sight are not there. @param scroll what is scrolled, and begins with this list */
export function ProductionList({
  productions,
  query,
  scroll,
}: {
  productions: readonly Production[];
  query: ListQuery;
  scroll: RefObject<HTMLElement | null>;
}) {
  const box = useRef<HTMLDivElement>(null);
  const size = useSize(box);
  const layout = useMemo(() => cardLayout(size?.width ?? 0), [size?.width]);
  const twins = useMemo(() => twinsBefore(productions), [productions]);
  const virtual = useVirtualizer({
    count: size ? productions.length : 0,
    getScrollElement: () => scroll.current,
    getItemKey: (i) => productions[i].id,
    estimateSize: (i) => productionHeight(productions[i].shots, layout),
    overscan: 1,
  });
  // What is reckoned with has changed.
  const reckoned = useRef({ productions, layout });
  if (reckoned.current.productions !== productions || reckoned.current.layout !== layout) {
    reckoned.current = { productions, layout };
    virtual.measure();
  }
  return (
    <div ref={box} className="relative" style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map((item) => (
        <ProductionSection
          key={item.key}
          production={productions[item.index]}
          twins={twins[item.index]}
          query={query}
          layout={layout}
          top={item.start}
          scroll={scroll}
        />
      ))}
    </div>
  );
}

/** For each, how many of the same name stand before it. */
function twinsBefore(productions: readonly Production[]): number[] {
  const seen = new Map<string, number>();
  return productions.map(({ name }) => {
    const before = seen.get(name) ?? 0;
    seen.set(name, before + 1);
    return before;
  });
}
