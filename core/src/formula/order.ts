import type { Formula } from '../schema/formula.ts';
import type { Table } from '../table/table.ts';

/**
 * Formulas in an order in which each comes after those it reads, or the ring of paths that makes that impossible.
 */
export function formulaOrder(formulas: Table<Formula>): { order: string[] } | { loop: string[] } {
  const order: string[] = [];
  const done = new Set<string>();
  for (const start of formulas.keys()) {
    if (done.has(start)) continue;
    // A stack rather than recursion: chains may be thousands long.
    const trail: { path: string; next: number }[] = [{ path: start, next: 0 }];
    const onTrail = new Set([start]);
    while (trail.length > 0) {
      const top = trail[trail.length - 1];
      const inputs = formulas.at(top.path).inputs;
      if (top.next >= inputs.length) {
        trail.pop();
        onTrail.delete(top.path);
        done.add(top.path);
        order.push(top.path);
        continue;
      }
      const { path } = inputs[top.next++];
      if (done.has(path) || !formulas.has(path)) continue;
      if (onTrail.has(path)) return { loop: trail.map((t) => t.path).slice(trail.findIndex((t) => t.path === path)) };
      trail.push({ path, next: 0 });
      onTrail.add(path);
    }
  }
  return { order };
}
