/** From a frame of a clip, counted from 0, to a place across the view of its cycle. */
export type Across = (frame: number) => number;

/** Room for names on the left of that view, in pixels. */
export const LEFT = 112;
