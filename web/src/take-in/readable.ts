/** What can be brought in from a file, by what files are called. */

export const SCENE = /\.(glb|gltf|bvh)$/i;
export const TABLE = /\.csv$/i;
export const PICTURE = /\.(png|jpe?g)$/i;
export const SOUND = /\.(wav|mp3|ogg|oga|flac)$/i;

export const FOOTAGE = /\.(mp4|m4v|mov|webm|mkv)$/i;

/** For the browser's own question. */
export const ACCEPTED = '.glb,.gltf,.bvh,.csv,.bin,.png,.jpg,.jpeg,.wav,.mp3,.ogg,.oga,.flac,.mp4,.m4v,.mov,.webm';

/** For people. */
export const READABLE =
  'glTF (.glb, .gltf), BVH (.bvh), curves (.csv), pictures (.png, .jpg), sounds (.wav, .mp3, .ogg, .flac), footage (.mp4, .webm)';

/** A name for people, of a file's. */
export const nameOf = (file: string): string =>
  file
    .replace(/\.[^.]+$/, '')
    .replace(/[_-]+/g, ' ')
    .trim()
    .slice(0, 80) || 'File';
