/** What can be brought in from a file, by what files are called. */

export const SCENE = /\.(glb|gltf|bvh)$/i;
export const TABLE = /\.csv$/i;
export const PICTURE = /\.(png|jpe?g)$/i;
export const SOUND = /\.(wav|mp3|ogg|oga|flac)$/i;

export const FOOTAGE = /\.(mp4|m4v|mov|webm|mkv)$/i;

/**
 * Pictures that are numbered one after another and called alike otherwise, in the order of their numbers: a run. Null where some are not, or where there
 * is only one.
 */
export function runOf<F extends { readonly name: string }>(files: readonly F[]): { name: string; files: F[] } | null {
  if (files.length < 2) return null;
  const numbered = files.flatMap((file) => {
    const found = /^(.*?)(\d+)(\.[^.]+)$/.exec(file.name);
    return found && PICTURE.test(file.name)
      ? [{ file, stem: found[1] + found[3].toLowerCase(), number: Number(found[2]) }]
      : [];
  });
  if (numbered.length < files.length || new Set(numbered.map((n) => n.stem)).size > 1) return null;
  if (new Set(numbered.map((n) => n.number)).size < files.length) return null;
  numbered.sort((a, b) => a.number - b.number);
  return { name: nameOf(numbered[0].file.name.replace(/\d+(\.[^.]+)$/, '$1')), files: numbered.map((n) => n.file) };
}

/** For the browser's own question. */
export const ACCEPTED = '.glb,.gltf,.bvh,.csv,.bin,.png,.jpg,.jpeg,.wav,.mp3,.ogg,.oga,.flac,.mp4,.m4v,.mov,.webm';

/** For people. */
export const READABLE =
  'glTF (.glb, .gltf), BVH (.bvh), curves (.csv), pictures (.png, .jpg; numbered ones are a run), sounds (.wav, .mp3, .ogg, .flac), footage (.mp4, .webm)';

/** A name for people, of a file's. */
export const nameOf = (file: string): string =>
  file
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
    .slice(0, 80) || 'File';
