export * from './changed.ts';
export * from './formulas.ts';
export * from './parse.ts';
