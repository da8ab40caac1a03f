export * from './mixdown.ts';
export * from './synthesise.ts';
