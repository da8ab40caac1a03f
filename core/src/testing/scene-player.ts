import type { Motion, Scene, Track, TrackOf } from '../interchange/scene/scene.ts';
import { compose, multiply } from '../pose/affine.ts';

/** Where all nodes of a scene are in the world at a time of a motion, 16 numbers each: by the rules of glTF, and nothing else. */
export function worldsAt({ nodes }: Scene, { tracks }: Motion, seconds: number): Float64Array {
  const world = new Float64Array(nodes.length * 16);
  const own = new Float64Array(16);
  nodes.forEach(({ place, parent }, n) => {
    const part = (of: Exclude<TrackOf, 'weights'>) => {
      const track = tracks.find((t) => t.node === n && t.of === of);
      return track ? valueAt(track, seconds) : [...place[of]];
    };
    const [x, y, z] = part('translation');
    const size = part('scale');
    compose(own, 0, Float64Array.from(part('rotation')), 0, 1, x, y, z);
    for (let c = 0; c < 3; c++) for (let r = 0; r < 3; r++) own[c * 4 + r] *= size[c];
    if (parent < 0) world.set(own, n * 16);
    else multiply(world, n * 16, world, parent * 16, own, 0);
  });
  return world;
}

/** What a track says at a time. */
export function valueAt({ of, shape, times, values }: Track, seconds: number): number[] {
  const group = values.length / times.length;
  const width = shape === 'cubic' ? group / 3 : group;
  const part = (k: number, which: number) => [
    ...values.subarray(k * group + which * width, k * group + (which + 1) * width),
  ];
  const middle = shape === 'cubic' ? 1 : 0;
  const k = times.findLastIndex((t) => t <= seconds);
  if (k < 0) return part(0, middle);
  if (k + 1 === times.length || shape === 'step') return part(k, middle);
  const length = times[k + 1] - times[k];
  const u = (seconds - times[k]) / length;
  const [a, b] = [part(k, middle), part(k + 1, middle)];
  let out: number[];
  if (shape === 'cubic') {
    const [from, to] = [part(k, 2), part(k + 1, 0)];
    const [uu, uuu] = [u * u, u * u * u];
    out = a.map(
      (v, c) =>
        (2 * uuu - 3 * uu + 1) * v +
        length * (uuu - 2 * uu + u) * from[c] +
        (3 * uu - 2 * uuu) * b[c] +
        length * (uuu - uu) * to[c],
    );
  } else if (of === 'rotation') {
    const cosine = a.reduce((sum, v, c) => sum + v * b[c], 0);
    const angle = Math.acos(Math.min(1, Math.abs(cosine)));
    const [wa, wb] =
      angle < 1e-6 ? [1 - u, u] : [Math.sin((1 - u) * angle) / Math.sin(angle), Math.sin(u * angle) / Math.sin(angle)];
    out = a.map((v, c) => wa * v + (cosine < 0 ? -wb : wb) * b[c]);
  } else out = a.map((v, c) => v + u * (b[c] - v));
  if (of !== 'rotation') return out;
  const length4 = Math.hypot(...out);
  return out.map((v) => v / length4);
}
