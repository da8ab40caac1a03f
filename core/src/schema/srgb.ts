/** Paints and the light they reflect (sRGB, IEC 61966-2-1), a part of a colour at a time. */

/** The light, from 0 to 1, that a paint from 0 to 1 reflects. */
export const lightOf = (paint: number): number => (paint <= 0.04045 ? paint / 12.92 : ((paint + 0.055) / 1.055) ** 2.4);

/** The paint that reflects a light; of less than none it is none. */
export const paintOf = (light: number): number =>
  light <= 0.0031308 ? light * 12.92 : 1.055 * Math.max(light, 0) ** (1 / 2.4) - 0.055;
