export * from './beats.ts';
export * from './mixdown.ts';
export * from './outline.ts';
export * from './synthesise.ts';
export * from './wav.ts';
