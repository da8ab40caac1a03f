export * from './formulas.ts';
export * from './parse.ts';
