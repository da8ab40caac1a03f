export type { Check, Finding } from './check.ts';
export { checkOf, checks } from './checks.ts';
export { findingsOf, lookThrough, toleranceOf } from './run.ts';
