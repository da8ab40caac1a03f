export { dropIncoming, PART } from './parts.ts';
export * from './store.ts';
