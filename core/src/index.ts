export * from './curve/index.ts';
export * from './document/index.ts';
export * from './edit/index.ts';
export * from './evaluate/index.ts';
export * from './pose/index.ts';
export * from './spacing/index.ts';
export * from './wire/index.ts';
