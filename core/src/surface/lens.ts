/**
 * Lenses as photographers tell them: their length in millimetres on a picture of 36 by 24, how wide they are open as an f-number, and what is
 * sharp. A camera of the cast has an angle of view from below to above; the lens follows from it and back.
 */

/** Half the height of the picture behind the lens, millimetres. */
const HALF_HEIGHT = 12;

/** The lens of an angle of view. @param view from below to above, radians @returns millimetres */
export const lensOf = (view: number): number => HALF_HEIGHT / Math.tan(view / 2);

/** The angle of view of a lens. @param lens millimetres @returns radians, from below to above */
export const viewOf = (lens: number): number => 2 * Math.atan(HALF_HEIGHT / lens);

/**
 * How wide a lens is open, metres. What is sharp lies in focus where `1/f = 1/image + 1/object`; the image lies as far behind the lens as the
 * angle of view says.
 * @param view radians @param aperture f-number, 0 for a pinhole @param focus what is sharp, metres
 */
export function openingOf(view: number, aperture: number, focus: number): number {
  if (aperture <= 0 || focus <= 0) return 0;
  const image = lensOf(view) / 1000;
  const focal = (image * focus) / (image + focus);
  return focal / aperture;
}

/**
 * How large a point is drawn that is not in focus, as a share of the picture's height: the circle of confusion of a thin lens,
 * `A · |s − S| / s · f / (S − f)`.
 * @param at how far the point is, metres
 */
export function confusionOf(view: number, aperture: number, focus: number, at: number): number {
  const image = lensOf(view) / 1000;
  // f / (S − f) is the image's distance over S.
  const circle = (openingOf(view, aperture, focus) * (Math.abs(at - focus) / at) * image) / focus;
  return circle / ((2 * HALF_HEIGHT) / 1000);
}

const GOLDEN = Math.PI * (3 - Math.sqrt(5));

/** Points spread evenly over a disc of radius one, the first in its middle where it is alone (Vogel 1979). Two numbers each. */
export function overDisc(count: number): Float64Array {
  const out = new Float64Array(count * 2);
  for (let i = 0; i < count; i++) {
    const r = count === 1 ? 0 : Math.sqrt((i + 0.5) / count);
    out[i * 2] = r * Math.cos(i * GOLDEN);
    out[i * 2 + 1] = r * Math.sin(i * GOLDEN);
  }
  return out;
}

/**
 * How the view of a pinhole is shifted that looks from a point of the lens and sees what is sharp where it was: a frustum moved sideways at its
 * near plane, as a share of its half width and half height.
 * @param dx how far aside the eye goes, metres @param view radians @param aspect width over height
 */
export function shiftOf(
  dx: number,
  dy: number,
  focus: number,
  view: number,
  aspect: number,
): readonly [x: number, y: number] {
  const half = focus * Math.tan(view / 2);
  return [-dx / (half * aspect), -dy / half];
}
