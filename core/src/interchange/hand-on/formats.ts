/** What leaves Varrup in a file that others read. */
export interface Format {
  readonly label: string;
  /** Who takes it, and what is in it, in a sentence. */
  readonly about: string;
  readonly extension: string;
  readonly type: string;
  /** The choices that mean nothing in it. */
  readonly without: readonly ('motions' | 'keys' | 'rate' | 'travel' | 'joints' | 'placing' | 'names')[];
}

export const formats = {
  glb: {
    label: 'glTF, one file',
    about:
      'Cast, rigs on their skins, shape targets, cameras and lights, and a motion for each clip: for games, pages and films.',
    extension: 'glb',
    type: 'model/gltf-binary',
    without: [],
  },
  gltf: {
    label: 'glTF, in parts',
    about: 'The same as text that can be read, with its numbers in a file beside it.',
    extension: 'gltf',
    type: 'model/gltf+json',
    without: [],
  },
  bvh: {
    label: 'BVH capture',
    about: 'The skeleton of each rig, and its turns at every frame, a file for each motion: for other rigs.',
    extension: 'bvh',
    type: 'text/plain',
    without: ['keys'],
  },
  points: {
    label: 'point cache',
    about: 'Where every vertex is at every frame, as plain arrays: for whoever draws and needs no rig.',
    extension: 'npz',
    type: 'application/zip',
    without: ['keys', 'joints'],
  },
  'curves-wide': {
    label: 'curves, a column each',
    about: 'A table with a line for each frame and a column for each channel that moves.',
    extension: 'csv',
    type: 'text/csv',
    without: ['keys', 'joints', 'placing'],
  },
  'curves-long': {
    label: 'curves, a line each',
    about: 'A table with a line for each number: member, channel, frame, value.',
    extension: 'csv',
    type: 'text/csv',
    without: ['keys', 'joints', 'placing'],
  },
  sound: {
    label: 'sound, WAV',
    about: 'All that is heard along the frames of the shot, mixed: for whoever cuts or plays it.',
    extension: 'wav',
    type: 'audio/wav',
    without: ['keys', 'rate', 'travel', 'joints', 'placing', 'names'],
  },
  archive: {
    label: 'Varrup archive',
    about:
      'The shot as it is, with its sounds, the rigs it links and their pose books: to keep, and to open in another Varrup.',
    extension: 'zip',
    type: 'application/zip',
    without: ['motions', 'keys', 'rate', 'travel', 'joints', 'placing', 'names'],
  },
} as const satisfies Record<string, Format>;

export type FormatName = keyof typeof formats;
export const formatNames = Object.keys(formats) as FormatName[];
