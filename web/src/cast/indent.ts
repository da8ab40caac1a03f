/** How far in a row of some depth stands, in pixels: below seven levels no further, so that its name stays in sight. */
export const indent = (depth: number): number => Math.min(depth, 7) * 14;
