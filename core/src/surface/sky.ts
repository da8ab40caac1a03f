/**
 * The light of a day at the harbour, 54° north, when day and night are equally long: where the sun stands is reckoned; how it looks goes by
 * how high it stands. Colours are as paints say them (sRGB), from 0 to 1.
 */
export interface SkyLight {
  /** Towards the sun; at night towards the moon. Of length one. */
  readonly towards: Float64Array;
  readonly sun: Float64Array;
  /** How strong the sun or the moon is. */
  strength: number;
  readonly zenith: Float64Array;
  readonly horizon: Float64Array;
  /** What comes from the whole sky, and what the ground throws back. */
  readonly above: Float64Array;
  readonly below: Float64Array;
  ambient: number;
  readonly floor: Float64Array;
  /** How much of what lies so many metres away is lost in haze: the share lost in one metre. */
  lost: number;
}

const LATITUDE = (54 * Math.PI) / 180;

/** How high the sun stands at an hour, radians; below the horizon less than 0. */
export const sunHeight = (hour: number): number => Math.asin(Math.cos(LATITUDE) * Math.cos(angleOf(hour)));

/** How far the sun has gone since noon, radians. */
const angleOf = (hour: number): number => ((hour - 12) * Math.PI) / 12;

type Colour = readonly [number, number, number];
const paint = (hex: string): Colour => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16) / 255) as never;

interface Stop {
  /** Degrees. */
  readonly height: number;
  readonly zenith: Colour;
  readonly horizon: Colour;
  readonly sun: Colour;
  readonly strength: number;
  readonly above: Colour;
  readonly below: Colour;
  readonly ambient: number;
  readonly floor: Colour;
}

const stop = (
  height: number,
  [zenith, horizon, sun, above, below, floor]: readonly string[],
  strength: number,
  ambient: number,
): Stop => ({
  height,
  zenith: paint(zenith),
  horizon: paint(horizon),
  sun: paint(sun),
  above: paint(above),
  below: paint(below),
  floor: paint(floor),
  strength,
  ambient,
});

/** From the dead of night to full day. Between -7° and -5° neither sun nor moon is seen: there one gives way to the other. */
const stops: readonly Stop[] = [
  stop(-14, ['#0c1424', '#22344f', '#c3d2f7', '#8aa0d2', '#343a48', '#323b48'], 1.15, 1.2),
  stop(-7, ['#1c2b4e', '#5a5f86', '#b9c0e6', '#98a5d0', '#454652', '#4b5266'], 0, 1.45),
  stop(-5, ['#243861', '#946f7e', '#ff9a66', '#a5aed0', '#524d58', '#5d5c6c'], 0, 1.5),
  stop(0, ['#4a6798', '#e59a6e', '#ff9a5c', '#c6b6bf', '#8c7566', '#9b8678'], 1.5, 2),
  stop(8, ['#6a94c1', '#f2c796', '#ffc98c', '#ddd5cf', '#a5937c', '#bfab93'], 2.3, 1.95),
  stop(30, ['#7cafdd', '#dde9ef', '#fff3df', '#eef4fa', '#bfb5a4', '#d8cfbf'], 2, 1.75),
];

/** Somewhere to write the light of a sky. */
export const skyLight = (): SkyLight => ({
  towards: new Float64Array(3),
  sun: new Float64Array(3),
  strength: 0,
  zenith: new Float64Array(3),
  horizon: new Float64Array(3),
  above: new Float64Array(3),
  below: new Float64Array(3),
  ambient: 0,
  floor: new Float64Array(3),
  lost: 0,
});

/** The moon stands as high as this, across from the sun. */
const MOON = (35 * Math.PI) / 180;

/**
 * Writes the light of a moment. East is +X, and noon is towards +Z, where whoever looks at the stage stands.
 * @param hour from 0 to 24 @param haze from 0, clear, to 1
 */
export function writeSky(hour: number, haze: number, out: SkyLight): void {
  const height = sunHeight(hour);
  const degrees = (height * 180) / Math.PI;
  const night = degrees < (stops[1].height + stops[2].height) / 2;
  writeTowards(hour, night ? MOON : Math.max(height, 0.03), night, out.towards);
  let k = 0;
  while (k + 2 < stops.length && degrees >= stops[k + 1].height) k++;
  const [a, b] = [stops[k], stops[k + 1]];
  const t = Math.min(1, Math.max(0, (degrees - a.height) / (b.height - a.height)));
  for (let c = 0; c < 3; c++) {
    out.horizon[c] = mix(a.horizon[c], b.horizon[c], t);
    // Haze lies over the whole sky, and takes the colour out of the sun.
    out.zenith[c] = mix(mix(a.zenith[c], b.zenith[c], t), out.horizon[c], 0.75 * haze);
    out.sun[c] = mix(mix(a.sun[c], b.sun[c], t), out.horizon[c], 0.4 * haze);
    out.above[c] = mix(a.above[c], b.above[c], t);
    out.below[c] = mix(a.below[c], b.below[c], t);
    out.floor[c] = mix(a.floor[c], b.floor[c], t);
  }
  out.strength = mix(a.strength, b.strength, t) * (1 - 0.6 * haze);
  out.ambient = mix(a.ambient, b.ambient, t) * (1 + 0.15 * haze);
  // From a thousandth a metre to a twelfth.
  out.lost = haze === 0 ? 0 : 0.001 * 80 ** haze;
}

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

function writeTowards(hour: number, height: number, across: boolean, out: Float64Array): void {
  const angle = angleOf(hour) + (across ? Math.PI : 0);
  // Before noon in the east; the further from noon, the further round.
  const [east, south] = [-Math.sin(angle), Math.cos(angle) * Math.sin(LATITUDE)];
  const length = Math.hypot(east, south) || 1;
  out[0] = (east / length) * Math.cos(height);
  out[1] = Math.sin(height);
  out[2] = (south / length) * Math.cos(height);
}
