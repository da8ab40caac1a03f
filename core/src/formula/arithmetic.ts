import type { Expression } from 'jsep';
import { parseFormula } from './parse.ts';

/** Reads what somebody types where a number is wanted. */

/** Characters that can belong to it: digits, signs, brackets, and an `e` for powers of ten. */
const POSSIBLE = /^[\d.,+\-−*/()eE=\s]*$/;

/**
 * The number that was typed: plain (`0,5`, `1e-3`), reckoned (`2*3`), or the one that is there changed by it (`+=0.1`, `-=`, `*=`, `/=`).
 * @param now the number that is there, in the unit that is typed in
 * @returns null where it is no number
 */
export function typedNumber(text: string, now: number): number | null {
  if (!POSSIBLE.test(text)) return null;
  const plain = text.replaceAll('−', '-').replaceAll(',', '.').trim();
  const [, how, rest] = /^(?:([+\-*/])=)?(.*)$/s.exec(plain)!;
  const by = reckoned(rest);
  if (by === null) return null;
  const value = how === undefined ? by : operators[how as Operator](now, by);
  return Number.isFinite(value) ? value : null;
}

/** Whether a character may be typed next in a number, after what is typed already. */
export const canBeTyped = (character: string, before: string): boolean =>
  // Only after a digit is it a power of ten; elsewhere it is a letter like others.
  character === 'e' || character === 'E' ? /[\d.]$/.test(before) : POSSIBLE.test(character) && character.trim() !== '';

const operators = {
  '+': (a: number, b: number) => a + b,
  '-': (a: number, b: number) => a - b,
  '*': (a: number, b: number) => a * b,
  '/': (a: number, b: number) => a / b,
} as const;
type Operator = keyof typeof operators;
const isOperator = (op: unknown): op is Operator => typeof op === 'string' && Object.hasOwn(operators, op);

function reckoned(text: string): number | null {
  if (text.trim() === '') return null;
  const parsed = parseFormula(text);
  return 'node' in parsed ? reckonedNode(parsed.node) : null;
}

function reckonedNode(node: Expression): number | null {
  if (node.type === 'Literal') return typeof node.value === 'number' ? node.value : null;
  if (node.type === 'UnaryExpression') {
    const value = reckonedNode(node.argument as Expression);
    return value === null ? null : node.operator === '-' ? -value : value;
  }
  if (node.type !== 'BinaryExpression' || !isOperator(node.operator)) return null;
  const [left, right] = [reckonedNode(node.left as Expression), reckonedNode(node.right as Expression)];
  return left === null || right === null ? null : operators[node.operator](left, right);
}
