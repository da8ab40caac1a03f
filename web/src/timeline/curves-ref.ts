/** The curves view of the open desk, for commands that act on it. */
export const curvesRef: { current: { frame(what: 'all' | 'picked'): void } | null } = { current: null };
