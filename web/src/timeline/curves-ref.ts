/** The curves view of the open desk, for commands that act on it. */
export const curvesRef: { current: { frameAll(): void } | null } = { current: null };
