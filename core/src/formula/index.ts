export * from './arithmetic.ts';
export { type Compiled, type CompiledFormula, compileFormula, type FormulaCall } from './compile.ts';
export { compiledFormula } from './compiled-formula.ts';
export * from './functions.ts';
export { formulaOrder } from './order.ts';
export type { FormulaProblem } from './parse.ts';
export * from './text.ts';
export { fittedPeriod } from './waves.ts';
