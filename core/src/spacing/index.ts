export { type Chart, chartOf, chartSpan, type Tick } from './chart.ts';
export { spacing } from './ribbon.ts';
