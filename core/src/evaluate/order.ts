import type { Operation } from '../rig/operation.ts';
import { Refused } from '../schema/refused.ts';

/**
 * Steps in an order in which each comes after those that make what it reads, otherwise as they were given.
 * @param nameOf what people call a step; null for helpers
 * @throws Refused, which names the members of a circle
 */
export function inOrder(steps: readonly Operation[], nameOf: (step: Operation) => string | null): Operation[] {
  const makerOf = new Map<number, number>();
  steps.forEach((step, s) => {
    for (const node of step.writes) makerOf.set(node, s);
  });
  const out: Operation[] = [];
  const state = new Uint8Array(steps.length); // 0 not seen, 1 being placed, 2 placed
  const next = new Int32Array(steps.length);
  // A stack rather than recursion: chains may be thousands long.
  const stack: number[] = [];
  for (let s = 0; s < steps.length; s++) {
    if (state[s] !== 0) continue;
    stack.push(s);
    while (stack.length > 0) {
      const top = stack[stack.length - 1];
      state[top] = 1;
      const { reads } = steps[top];
      if (next[top] < reads.length) {
        const maker = makerOf.get(reads[next[top]++]);
        if (maker === undefined || maker === top || state[maker] === 2) continue;
        if (state[maker] === 1) throw new Refused(circle(steps, stack.slice(stack.indexOf(maker)), nameOf));
        stack.push(maker);
      } else {
        state[top] = 2;
        out.push(steps[top]);
        stack.pop();
      }
    }
  }
  return out;
}

/**
 * The same steps, still each after those it needs, with those of a kind next to one another as far as that goes: a hundred rigs
 * then go through the same code together.
 */
export function byKind(ordered: readonly Operation[]): Operation[] {
  const kinds = new Map<unknown, Operation[]>();
  const waiting = new Set<number>();
  for (const step of ordered) {
    const kind = kinds.get(step.constructor);
    if (kind) kind.push(step);
    else kinds.set(step.constructor, [step]);
    for (const node of step.writes) waiting.add(node);
  }
  const out: Operation[] = [];
  while (out.length < ordered.length) {
    for (const [kind, steps] of kinds) {
      const later: Operation[] = [];
      for (const step of steps) {
        if (step.reads.some((node) => waiting.has(node) && !step.writes.includes(node))) later.push(step);
        else {
          for (const node of step.writes) waiting.delete(node);
          out.push(step);
        }
      }
      kinds.set(kind, later);
    }
  }
  return out;
}

function circle(
  steps: readonly Operation[],
  ring: readonly number[],
  nameOf: (step: Operation) => string | null,
): string {
  const names = [...new Set(ring.map((s) => nameOf(steps[s])).filter((name) => name !== null))];
  return `Some carry one another round in a circle: ${names.map((n) => `"${n}"`).join(', ')}.`;
}
