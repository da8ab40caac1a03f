import type { Stage } from '../stage/stage.ts';

/** The stage of the open desk, for commands that act on it. */
export const stageRef: { current: Stage | null } = { current: null };
