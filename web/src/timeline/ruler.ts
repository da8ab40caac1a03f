/** The height of the ruler over the sheet and the curves, in pixels. */
export const RULER = 26;
