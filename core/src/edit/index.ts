export * from './commands/change.ts';
export * from './commands/keys.ts';
export * from './commands/members.ts';
export * from './commands/rotation.ts';
export * from './commands/timing.ts';
export * from './edit.ts';
export * from './history.ts';
export * from './patch.ts';
