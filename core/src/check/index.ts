export type { Check, Finding } from './check.ts';
export { checkOf, checks } from './checks.ts';
export * from './commands.ts';
export { kindest, mostTried, type TriedCrossing, triedCrossings } from './crossing.ts';
export type { WatchedCycle, WatchedFoot } from './cycles.ts';
export { footfallOf, type SeenFootfall } from './footfall.ts';
export { findingsOf, lookThrough, toleranceOf } from './run.ts';
export { lookedAt } from './watched.ts';
