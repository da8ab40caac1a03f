import { strToU8, zipSync } from 'fflate';
import { writeNpy } from './npy.ts';
import { type PointCache, partNames } from './points.ts';

/**
 * Writes a point cache as an archive of plain arrays (`.npz`), which {@link readPointCache} reads: `points.npy` (frames × vertices ×
 * 3), `triangles.npy` (triangles × 3) and `about.json` (rate, and which vertices are whose). See `docs/point-cache.md`.
 */
export function writePointCache({ rate, frames, bodies, points, triangles }: PointCache): Uint8Array {
  const about = { maker: 'Varrup', version: 1, rate, frames, units: 'metres', up: 'y', bodies };
  return zipSync(
    {
      [partNames.points]: writeNpy([frames, points.length / 3 / frames, 3], points),
      [partNames.triangles]: writeNpy([triangles.length / 3, 3], triangles),
      [partNames.about]: strToU8(JSON.stringify(about, null, 1)),
    },
    { level: 3 },
  );
}
