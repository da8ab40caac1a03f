import jsep, { type Expression } from 'jsep';
import { formulaLimits } from '../schema/formula.ts';

/** Where something is wrong in a formula: from a character on, so many of them. */
export interface FormulaProblem {
  readonly at: number;
  readonly length: number;
  readonly sentence: string;
}

/** A part of a formula, with the characters it stands on. */
export interface Placed {
  readonly start: number;
  readonly end: number;
}
export type Node = Expression & Placed;

/** How deep brackets may go, and how many parts a formula may have. */
const DEEPEST = 60;
export const MOST_PARTS = 600;

// The parser is left arithmetic, comparisons and calls, and nothing else.
jsep.removeAllBinaryOps();
jsep.removeAllUnaryOps();
jsep.removeAllLiterals();
for (const [op, binding] of [
  ['<', 7],
  ['>', 7],
  ['<=', 7],
  ['>=', 7],
  ['+', 9],
  ['-', 9],
  ['*', 10],
  ['/', 10],
  ['%', 10],
] as const) {
  jsep.addBinaryOp(op, binding);
}
jsep.addUnaryOp('-');
jsep.addUnaryOp('+');

const starts = new WeakMap<jsep.HookScope, number[]>();

// The parser does not say where its parts stand. These two hooks note it for each token, which is enough: what is made of
// tokens stands from its first to its last.
jsep.hooks.add('gobble-token', function (env) {
  starts.set(this, [...(starts.get(this) ?? []), this.index]);
  // A number would be taken without a word afterwards.
  if (/[\d.]/.test(this.char)) env.node = this.gobbleNumericLiteral();
});
jsep.hooks.add('after-token', function (env) {
  const start = starts.get(this)?.pop() ?? 0;
  const node = env.node as (Expression & Partial<Placed>) | undefined;
  if (node && node.start === undefined) Object.assign(node, { start, end: this.index });
});

/** How a channel is named in a formula, for those who have written it otherwise. */
export const HOW_NAMED = 'a channel is read by the short name it has under “reads”, where it is picked first';

/** Takes a formula's text apart. What may stand in it is for `compile` to say. */
export function parseFormula(text: string): { node: Node } | { problem: FormulaProblem } {
  const deep = tooDeep(text);
  if (text.length > formulaLimits.text)
    return {
      problem: { at: formulaLimits.text, length: 1, sentence: `is longer than ${formulaLimits.text} characters` },
    };
  if (deep >= 0) return { problem: { at: deep, length: 1, sentence: `is nested more than ${DEEPEST} deep` } };
  const quoted = text.search(/["'`[\]{}\\;]/);
  if (quoted >= 0)
    return { problem: { at: quoted, length: 1, sentence: `“${text[quoted]}” has no meaning here: ${HOW_NAMED}` } };
  try {
    return { node: placed(jsep(text) as Node) };
  } catch (error) {
    return { problem: problemOf(error, text) };
  }
}

/** The character at which brackets or signs are nested too deep, or -1: the parser would go that deep itself. */
function tooDeep(text: string): number {
  let depth = 0;
  let signs = 0;
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (c === '(') depth++;
    if (c === ')') depth--;
    signs = c === '-' || c === '+' || c === '?' ? signs + 1 : /\s/.test(c) ? signs : 0;
    if (c === '?') depth++;
    if (depth > DEEPEST || signs > DEEPEST) return i;
  }
  return -1;
}

function problemOf(error: unknown, text: string): FormulaProblem {
  const { index, description } = error as { index?: number; description?: string };
  const at = Math.min(index ?? 0, Math.max(0, text.length - 1));
  const said = (description ?? (error as Error).message).replace(/ at character \d+$/, '');
  const sentence = /expected|unclosed|missing/i.test(said)
    ? 'something is missing here'
    : /unexpected|invalid/i.test(said)
      ? 'this was not expected here'
      : 'cannot be read from here on';
  return { at, length: 1, sentence };
}

/** Gives the parts made of other parts their places. */
function placed(node: Node): Node {
  const callee = node.callee as Node | undefined;
  if (callee && callee.start === undefined && typeof callee.name === 'string') {
    Object.assign(callee, { start: node.start, end: node.start + callee.name.length });
  }
  const spans = childrenOf(node).map(placed);
  if (node.start !== undefined || spans.length === 0) return node;
  return Object.assign(node, {
    start: Math.min(...spans.map((s) => s.start ?? 0)),
    end: Math.max(...spans.map((s) => s.end ?? 0)),
  });
}

/** The parts a part is made of. */
export function childrenOf(node: Expression): Node[] {
  const parts = [
    node.left,
    node.right,
    node.argument,
    node.test,
    node.consequent,
    node.alternate,
    node.callee,
    node.object,
    node.property,
  ];
  const lists = [node.arguments, node.body, node.expressions, node.elements];
  return [...parts, ...lists.flatMap((l) => (Array.isArray(l) ? l : []))].filter(
    (p): p is Node => typeof p === 'object' && p !== null && 'type' in p,
  );
}
