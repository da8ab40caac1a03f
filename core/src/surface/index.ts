export * from './mesh/index.ts';
