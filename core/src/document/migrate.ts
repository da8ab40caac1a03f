import { noPlan } from './board.ts';
import { plainManner } from './clip.ts';
import { SHOT_VERSION } from './shot.ts';

const cameWithThePlan = ['panels', 'markers', 'strokes', 'footage', 'traces', 'notes', 'suggestions'] as const;

/** Each step takes a document of version `n` (the index) to version `n + 1`. */
const steps: Readonly<Record<number, (old: Record<string, unknown>) => Record<string, unknown>>> = {
  // Control sets came in.
  1: (old) => ({ sets: {}, ...old }),
  // Formulas, recipes, sounds and checks came in, and deformers, which members have none of unless they say so.
  2: (old) => ({ formulas: {}, recipes: {}, sounds: {}, watch: { tolerances: {}, ignored: [] }, ...old }),
  // Rigs came in, and what a newer version of one has no place for.
  3: (old) => ({ aside: {}, ...old }),
  // Clips came in.
  4: (old) => ({ clips: {}, ...old }),
  // What is loose stands on the frame it was made on. Before, that was not kept: it stood on all of them.
  5: (old) => ({ ...old, loose: onFirstFrame(old.loose, old.play) }),
  // Cuts came in.
  6: (old) => ({ cuts: {}, ...old }),
  // Tracks came in, and how clips go about where they meet.
  7: (old) => ({ tracks: {}, ...old, clips: withManners(old.clips) }),
  // The plan came in, footage, notes and suggestions.
  8: (old) => ({
    plan: noPlan,
    ...Object.fromEntries(cameWithThePlan.map((table) => [table, {}])),
    ...old,
  }),
  // Footage may be a run of pictures. Before, it was a film.
  9: (old) => ({ ...old, footage: withPictures(old.footage) }),
};

function withPictures(footage: unknown): unknown {
  if (typeof footage !== 'object' || footage === null) return footage;
  return Object.fromEntries(Object.entries(footage).map(([id, film]) => [id, { pictures: [], ...(film as object) }]));
}

function withManners(clips: unknown): unknown {
  if (typeof clips !== 'object' || clips === null) return clips;
  const plain = { manner: plainManner, follows: {} };
  return Object.fromEntries(Object.entries(clips).map(([id, clip]) => [id, { ...plain, ...(clip as object) }]));
}

function onFirstFrame(loose: unknown, play: unknown): unknown {
  if (typeof loose !== 'object' || loose === null) return {};
  const frame = (play as { first?: unknown } | undefined)?.first ?? 1;
  return Object.fromEntries(Object.entries(loose).map(([path, value]) => [path, [{ frame, value }]]));
}

/**
 * Brings an older document up to the version this code reads. What is not a versioned document is returned as it is,
 * for the schema to refuse.
 * @throws Error with a sentence when the document is newer than this code, or too old for it.
 */
export function migrate(json: unknown): unknown {
  if (typeof json !== 'object' || json === null || !('version' in json)) return json;
  let document = json as Record<string, unknown>;
  const version = document.version;
  if (typeof version !== 'number' || !Number.isInteger(version)) return json;
  if (version > SHOT_VERSION) {
    throw new Error(`was written by a newer Varrup (version ${version}; this one reads up to ${SHOT_VERSION})`);
  }
  for (let v = version; v < SHOT_VERSION; v++) {
    const step = steps[v];
    if (!step) throw new Error(`is of version ${version}, which this Varrup can no longer read`);
    document = { ...step(document), version: v + 1 };
  }
  return document;
}
