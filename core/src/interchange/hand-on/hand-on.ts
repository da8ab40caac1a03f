import { strToU8 } from 'fflate';
import { castOrder, withDescendants } from '../../document/hierarchy.ts';
import type { Shot } from '../../document/shot.ts';
import { type Media, mediaOfSounds } from '../../media/index.ts';
import { Refused } from '../../schema/refused.ts';
import { mixdown, type Recordings, SAMPLE_RATE, writeWav } from '../../sound/index.ts';
import type { Archive } from '../archive/archive.ts';
import { writeArchive } from '../archive/write.ts';
import { bake, type StandIn } from '../bake/bake.ts';
import type { Choices } from '../bake/choices.ts';
import type { LeftOut } from '../bake/plan.ts';
import { capturesOf } from '../bvh/of-rig.ts';
import { writeBvh } from '../bvh/write.ts';
import { curveTablesOf } from '../csv/of-shot.ts';
import type { TableForm } from '../csv/table.ts';
import { writeCurveTable } from '../csv/write.ts';
import { writeGlb, writeGltf } from '../gltf/write.ts';
import { pointCachesOf } from '../points/of-shot.ts';
import { writePointCache } from '../points/write.ts';
import { fileStem } from '../scene/names.ts';
import { type FormatName, formats } from './formats.ts';

/** A file that is handed on. */
export interface HandedFile {
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** What is to be known of a motion that was handed on. */
export interface HandedMotion {
  readonly name: string;
  readonly seconds: number;
  readonly keys: number;
  /** The largest change by laying keys; null where nothing is laid anew. */
  readonly off: { readonly millimetres: number; readonly degrees: number } | null;
}

export interface Handed {
  /** The first one is the one to open; the others belong to it or stand beside it. */
  readonly files: readonly HandedFile[];
  readonly motions: readonly HandedMotion[];
  readonly left: readonly LeftOut[];
  /** The nodes that stand for somebody, where the file has nodes. */
  readonly stand: readonly StandIn[];
}

/** What belongs to a shot and is not in it, and who hears how far it is. */
export interface HandOnWith {
  /** Is told how much is done, from 0 to 1. */
  readonly onProgress?: (share: number) => void;
  /** The pose books of its rigs, for an archive. */
  readonly poses?: Archive['poses'];
  /** The pictures of its bodies, and its sounds. */
  readonly media?: Media;
  /** Its sounds, decoded. */
  readonly recordings?: Recordings;
}

/**
 * Makes the files of a shot that are handed on.
 * @throws Refused with a sentence, where there is nothing to hand on or too much
 */
export async function handOn(
  shot: Shot,
  format: FormatName,
  choices: Choices,
  { onProgress = () => {}, poses = new Map(), media = new Map(), recordings = new Map() }: HandOnWith = {},
): Promise<Handed> {
  if (format === 'archive') return archived({ shot, poses, media });
  if (format === 'sound') return mixed(shot, choices, recordings);
  if (!choices.frames && choices.clips.length === 0)
    throw new Refused('There is no motion to hand on: choose frames of the shot, or clips.');
  return makers[format](shot, choices, onProgress, media);
}

type Maker = (shot: Shot, choices: Choices, onProgress: (share: number) => void, media: Media) => Promise<Handed>;

const makers: Record<Exclude<FormatName, 'archive' | 'sound'>, Maker> = {
  async glb(shot, choices, onProgress, media) {
    const { scene, about } = baked(shot, choices, onProgress, media);
    return { files: [file(shot.name, 'glb', await writeGlb(scene))], ...about };
  },
  async gltf(shot, choices, onProgress, media) {
    const { scene, about } = baked(shot, choices, onProgress, media);
    const name = fileStem(shot.name) || 'shot';
    const { text, files } = await writeGltf(scene, name);
    const beside = [...files].map(
      ([part, bytes]): HandedFile => ({ name: part, type: 'application/octet-stream', bytes }),
    );
    return { files: [file(shot.name, 'gltf', strToU8(text)), ...beside], ...about };
  },
  async bvh(shot, choices) {
    const rigs = rigsOf(shot, choices);
    if (rigs.length === 0) throw new Refused('There is no rig among those chosen: a capture is of a skeleton.');
    const made = rigs.map(({ id, name }) => ({ name, ...capturesOf(shot, id, choices) }));
    return {
      files: made.flatMap(({ name, motions }) =>
        motions.map((motion) => file(`${name} ${motion.name}`, 'bvh', strToU8(writeBvh(motion.capture)))),
      ),
      motions: made.flatMap(({ name, motions }) =>
        motions.map(({ name: motion, capture }) =>
          plain(`${name}: ${motion}`, (capture.frames - 1) / capture.rate, capture.frames),
        ),
      ),
      left: made.flatMap((m) => m.left),
      stand: [],
    };
  },
  async points(shot, choices) {
    const made = pointCachesOf(shot, choices);
    return {
      files: made.map(({ name, cache }) => file(name, 'points', writePointCache(cache))),
      motions: made.map(({ name, cache }) => plain(name, (cache.frames - 1) / cache.rate, cache.frames)),
      left: [],
      stand: [],
    };
  },
  'curves-wide': async (shot, choices) => tables(shot, choices, 'wide'),
  'curves-long': async (shot, choices) => tables(shot, choices, 'long'),
};

function baked(shot: Shot, choices: Choices, onProgress: (share: number) => void, media: Media) {
  const { scene, motions, left, stand } = bake(shot, choices, onProgress, media);
  const about = {
    left,
    stand,
    motions: scene.motions.map(({ name, seconds }, i): HandedMotion => {
      const { keys, millimetres, degrees } = motions[i];
      return { name, seconds, keys, off: { millimetres, degrees } };
    }),
  };
  return { scene, about };
}

function archived(archive: Archive): Handed {
  const files = [file(archive.shot.name, 'archive', writeArchive(archive))];
  return { files, motions: [], left: [], stand: [] };
}

/** The sounds of a shot along the frames that are wanted, those that play where none are. */
function mixed(shot: Shot, { frames }: Choices, recordings: Recordings): Handed {
  if (shot.sounds.size === 0) throw new Refused('The shot has no sounds.');
  const { first, last } = frames ?? shot.play;
  const lacking = mediaOfSounds(shot).filter((hash) => !recordings.has(hash)).length;
  return {
    files: [file(shot.name, 'sound', writeWav(mixdown(shot, first, last + 1, recordings), SAMPLE_RATE))],
    motions: [],
    left: lacking > 0 ? [{ of: shot.name, text: `sounds that were brought in and are not at hand: ${lacking}` }] : [],
    stand: [],
  };
}

function tables(shot: Shot, choices: Choices, form: TableForm): Handed {
  const made = curveTablesOf(shot, choices);
  if (made.every(({ table }) => table.columns.length === 0))
    throw new Refused('No channel of those chosen moves: there are no curves to hand on.');
  return {
    files: made.map(({ name, table }) => file(name, `curves-${form}`, strToU8(writeCurveTable(table, form)))),
    motions: made.map(({ name, table: { frames, rate, columns } }) =>
      plain(name, (frames[frames.length - 1] - frames[0]) / rate, frames.length * columns.length),
    ),
    left: [],
    stand: [],
  };
}

const plain = (name: string, seconds: number, keys: number): HandedMotion => ({ name, seconds, keys, off: null });

const file = (name: string, format: FormatName, bytes: Uint8Array): HandedFile => ({
  name: `${fileStem(name) || 'shot'}.${formats[format].extension}`,
  type: formats[format].type,
  bytes,
});

function rigsOf(shot: Shot, { members, clips, frames }: Choices) {
  const chosen = members && withDescendants(shot, members);
  const withClips = new Set(clips.map((id) => shot.clips.get(id)?.rig));
  return castOrder(shot).flatMap(({ member }) =>
    member.kind === 'rig' && (!chosen || chosen.has(member.id)) && (frames !== null || withClips.has(member.id))
      ? [member]
      : [],
  );
}
