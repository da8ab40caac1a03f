import { strFromU8, unzipSync } from 'fflate';
import { z } from 'zod';
import { Refused } from '../../schema/refused.ts';
import { readNpy } from './npy.ts';
import { type PointCache, partNames, pointLimits } from './points.ts';

const About = z.object({
  rate: z.number().min(1).max(1000),
  frames: z.number().int().min(1),
  bodies: z
    .array(z.object({ name: z.string().max(200), first: z.number().int().min(0), count: z.number().int().min(0) }))
    .max(10_000),
});

/** Reads a point cache. @throws Refused with what is wrong with which part */
export function readPointCache(bytes: Uint8Array): PointCache {
  if (bytes.length > pointLimits.packed) throw new Refused('The point cache is larger than 500 MB.');
  const wanted = new Set<string>(Object.values(partNames));
  let unpacked = 0;
  let parts: Record<string, Uint8Array>;
  try {
    parts = unzipSync(bytes, {
      filter({ name, originalSize }) {
        if (!wanted.has(name)) return false;
        unpacked += originalSize;
        if (unpacked > pointLimits.unpacked) throw new Refused('The point cache unpacks to more than 1 GB.');
        return true;
      },
    });
  } catch (error) {
    if (error instanceof Refused) throw error;
    throw new Refused('The point cache is no archive, or a broken one.');
  }
  for (const name of wanted) if (!parts[name]) throw new Refused(`The point cache has no ${name}.`);
  const about = aboutOf(parts[partNames.about]);
  const points = readNpy(parts[partNames.points], partNames.points);
  const triangles = readNpy(parts[partNames.triangles], partNames.triangles);
  const [frames, vertices, three] = points.shape;
  if (!(points.numbers instanceof Float32Array) || points.shape.length !== 3 || three !== 3 || frames !== about.frames)
    throw new Refused(`${partNames.points}: is not ${about.frames} frames of three numbers a vertex.`);
  if (!(triangles.numbers instanceof Uint32Array) || triangles.numbers.some((v) => v >= vertices))
    throw new Refused(`${partNames.triangles}: names vertices that are not there.`);
  if (about.bodies.some(({ first, count }) => first + count > vertices))
    throw new Refused(`${partNames.about}: gives bodies vertices that are not there.`);
  return { rate: about.rate, frames, bodies: about.bodies, points: points.numbers, triangles: triangles.numbers };
}

function aboutOf(bytes: Uint8Array): z.infer<typeof About> {
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(bytes));
  } catch {
    throw new Refused(`${partNames.about}: is not JSON.`);
  }
  const about = About.safeParse(json);
  if (about.success) return about.data;
  const [issue] = about.error.issues;
  throw new Refused(`${partNames.about}: ${issue.path.join('.')} ${issue.message}.`);
}
