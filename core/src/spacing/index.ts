export { spacing } from './ribbon.ts';
