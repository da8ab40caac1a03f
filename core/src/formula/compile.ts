import type { Expression } from 'jsep';
import {
  envOf,
  type FormulaEnv,
  type FormulaFunction,
  formulaNames,
  functionByName,
  type InputFunction,
  inputFunctions,
  type Term,
} from './functions.ts';
import { childrenOf, type FormulaProblem, HOW_NAMED, MOST_PARTS, type Node, parseFormula } from './parse.ts';

/** A formula made ready to run. Running it allocates nothing and always ends. */
export interface CompiledFormula {
  readonly run: Term;
  /** How many parts it has: a measure of what it costs. */
  readonly parts: number;
  /** For each input, how often it is read at another moment. */
  readonly elsewhere: Int32Array;
  /** Calls of functions with plain numbers as arguments, for handles and for fitting. */
  readonly calls: readonly FormulaCall[];
}

/** A call in a formula's text, and where each of its arguments stands. */
export interface FormulaCall {
  readonly name: string;
  readonly start: number;
  readonly end: number;
  readonly arguments: readonly { readonly start: number; readonly end: number; readonly value: number | null }[];
}

export type Compiled =
  | { readonly ok: true; readonly formula: CompiledFormula }
  | { readonly ok: false; readonly problem: FormulaProblem };

class Wrong extends Error {
  readonly problem: FormulaProblem;
  constructor(node: Node, sentence: string) {
    super(sentence);
    this.problem = { at: node.start ?? 0, length: Math.max(1, (node.end ?? 1) - (node.start ?? 0)), sentence };
  }
}

/**
 * Compiles a formula's text into nested closures: only the listed functions and names can be reached, and constant parts are
 * computed once, here.
 * @param inputs the names of its inputs, in order
 */
export function compileFormula(text: string, inputs: readonly string[]): Compiled {
  const parsed = parseFormula(text);
  if ('problem' in parsed) return { ok: false, problem: parsed.problem };
  const maker = new Maker(inputs);
  try {
    const { term } = maker.make(parsed.node, 0);
    return {
      ok: true,
      formula: { run: term, parts: maker.parts, elsewhere: maker.elsewhere, calls: maker.calls },
    };
  } catch (error) {
    if (error instanceof Wrong) return { ok: false, problem: error.problem };
    throw error;
  }
}

/** A compiled part; `constant` where it is the same at every frame. */
interface Made {
  readonly term: Term;
  readonly constant: number | null;
  /** Where it is another part times a number: so that `-x / 0.14 * 180` costs one multiplication. */
  readonly scaled?: { readonly of: Term; readonly by: number };
}

const constant = (value: number): Made => ({ term: () => value, constant: value });
const NOWHERE: FormulaEnv = envOf({ rate: 24, first: 1, last: 1 }, []);

class Maker {
  parts = 0;
  readonly elsewhere: Int32Array;
  readonly calls: FormulaCall[] = [];
  readonly #inputs: ReadonlyMap<string, number>;

  constructor(inputs: readonly string[]) {
    this.#inputs = new Map(inputs.map((name, i) => [name, i]));
    this.elsewhere = new Int32Array(inputs.length);
  }

  make(node: Node, depth: number): Made {
    this.parts++;
    if (this.parts > MOST_PARTS || depth > 200) throw new Wrong(node, `has more than ${MOST_PARTS} parts`);
    const go = (part: unknown) => this.make(part as Node, depth + 1);
    switch (node.type) {
      case 'Literal':
        if (typeof node.value !== 'number' || !Number.isFinite(node.value)) throw new Wrong(node, 'is not a number');
        return constant(node.value);
      case 'Identifier':
        return this.#name(node);
      case 'UnaryExpression': {
        const made = go(node.argument);
        return node.operator === '-' ? times(made, -1) : made;
      }
      case 'BinaryExpression':
        return binary(node, go(node.left), go(node.right));
      case 'ConditionalExpression':
        return choice(go(node.test), go(node.consequent), go(node.alternate));
      case 'CallExpression':
        return this.#call(node, go);
      case 'Compound':
        throw new Wrong(
          beyond(node),
          childrenOf(node).length === 0 ? 'is empty' : 'an operator is missing before this',
        );
      case 'MemberExpression':
        throw new Wrong(node, `a dot has no meaning here: ${HOW_NAMED}`);
      default:
        throw new Wrong(node, `has no meaning here: ${HOW_NAMED}`);
    }
  }

  #name(node: Node): Made {
    const name = String(node.name);
    const input = this.#inputs.get(name);
    if (input !== undefined) {
      return {
        term: (env) => env.values[env.sources[env.from + input]] * env.scales[env.from + input],
        constant: null,
      };
    }
    if (Object.hasOwn(formulaNames, name)) {
      return name === 'pi' ? constant(Math.PI) : { term: formulaNames[name].term, constant: null };
    }
    if (functionByName.has(name) || Object.hasOwn(inputFunctions, name)) {
      throw new Wrong(
        node,
        `${name} is a function: write ${functionByName.get(name)?.form ?? inputFunctions[name as InputFunction].form}`,
      );
    }
    throw new Wrong(node, `nothing here is called ${name}: pick it as an input, or choose one of the listed names`);
  }

  #call(node: Node, go: (part: unknown) => Made): Made {
    const callee = node.callee as Node;
    if (callee.type !== 'Identifier') throw new Wrong(node, 'only the listed functions can be called');
    const name = String(callee.name);
    const args = node.arguments as Node[];
    if (Object.hasOwn(inputFunctions, name)) return this.#inputCall(node, name as InputFunction, args, go);
    const found = functionByName.get(name);
    if (!found) throw new Wrong(callee, `there is no function called ${name}`);
    if (args.length < found.least || args.length > found.most) throw new Wrong(node, `is written ${found.form}`);
    const made = args.map(go);
    this.calls.push({
      name,
      start: node.start,
      end: node.end,
      arguments: args.map((a, i) => ({ start: a.start, end: a.end, value: made[i].constant })),
    });
    const filled = [...made, ...(found.missing ?? []).slice(args.length - found.least).map(constant)];
    return found.timed ? timed(found, filled) : folded(filled, found.of);
  }

  #inputCall(node: Node, name: InputFunction, args: readonly Node[], go: (part: unknown) => Made): Made {
    const { form, arguments: count } = inputFunctions[name];
    if (args.length !== count) throw new Wrong(node, `is written ${form}`);
    const input = args[0].type === 'Identifier' ? this.#inputs.get(String(args[0].name)) : undefined;
    if (input === undefined) throw new Wrong(args[0], `must be an input: it is written ${form}`);
    if (name === 'speed') {
      this.elsewhere[input] += 2;
      return {
        term: (env) => env.readers[input].at(env.frame + 0.5) - env.readers[input].at(env.frame - 0.5),
        constant: null,
      };
    }
    this.elsewhere[input] += 1;
    const by = go(args[1]).term;
    return { term: (env) => env.readers[input].at(env.frame - by(env)), constant: null };
  }
}

/** The part of a run of parts that should not be there. */
const beyond = (node: Node): Node => childrenOf(node)[1] ?? Object.assign(node, { start: 0, end: 1 });

/** A function of parts; computed here and now where all of them are constant. */
function folded(made: readonly Made[], of: (...args: number[]) => number): Made {
  const term = termOf(
    made.map((m) => m.term),
    of,
  );
  return made.every((m) => m.constant !== null) ? constant(term(NOWHERE)) : { term, constant: null };
}

/** Up to four arguments are passed one by one; more are rare, and gathered. */
function termOf(terms: readonly Term[], of: (...args: number[]) => number): Term {
  const [a, b, c, d] = terms;
  switch (terms.length) {
    case 1:
      return (env) => of(a(env));
    case 2:
      return (env) => of(a(env), b(env));
    case 3:
      return (env) => of(a(env), b(env), c(env));
    case 4:
      return (env) => of(a(env), b(env), c(env), d(env));
    default: {
      const gathered = new Array<number>(terms.length).fill(0);
      return (env) => {
        for (let i = 0; i < terms.length; i++) gathered[i] = terms[i](env);
        return of(...gathered);
      };
    }
  }
}

/** A function of the frame and of parts. With constant parts nothing is left to do but the function itself. */
function timed(found: FormulaFunction, made: readonly Made[]): Made {
  const of = found.of;
  const constants = made.map((m) => m.constant);
  if (constants.every((v) => v !== null)) {
    const [a, b, c, d] = constants as number[];
    return { term: (env) => of(env.frame, a, b, c, d), constant: null };
  }
  const frame: Made = { term: (env) => env.frame, constant: null };
  return folded([frame, ...made], of);
}

/** A part times a number. */
function times(made: Made, by: number): Made {
  if (made.constant !== null) return constant(made.constant * by);
  const of = made.scaled?.of ?? made.term;
  const all = (made.scaled?.by ?? 1) * by;
  return { term: (env) => of(env) * all, constant: null, scaled: { of, by: all } };
}

const operators: Readonly<Record<string, (a: Made, b: Made) => Term>> = {
  '+':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) + b(env),
  '-':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) - b(env),
  '*':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) * b(env),
  '/':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) / b(env),
  '%':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) % b(env),
  '<':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) < b(env) ? 1 : 0,
  '>':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) > b(env) ? 1 : 0,
  '<=':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) <= b(env) ? 1 : 0,
  '>=':
    ({ term: a }, { term: b }) =>
    (env) =>
      a(env) >= b(env) ? 1 : 0,
};

function binary(node: Expression, a: Made, b: Made): Made {
  const operator = operators[String(node.operator)];
  if (!operator) throw new Wrong(node as Node, `the sign ${String(node.operator)} has no meaning here`);
  if (node.operator === '*' && b.constant !== null) return times(a, b.constant);
  if (node.operator === '*' && a.constant !== null) return times(b, a.constant);
  if (node.operator === '/' && b.constant !== null && b.constant !== 0) return times(a, 1 / b.constant);
  const term = operator(a, b);
  return a.constant !== null && b.constant !== null ? constant(term(NOWHERE)) : { term, constant: null };
}

function choice(test: Made, yes: Made, no: Made): Made {
  if (test.constant !== null) return test.constant !== 0 ? yes : no;
  return { term: (env) => (test.term(env) !== 0 ? yes.term(env) : no.term(env)), constant: null };
}
