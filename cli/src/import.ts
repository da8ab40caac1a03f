import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import {
  Refused as CoreRefused,
  clipsOfMotions,
  documentOf,
  emptyShot,
  fileStem,
  layFigure,
  type Media,
  newId,
  newRigMembers,
  onFrames,
  Rigs,
  readArchive,
  readBvh,
  readGltf,
  rigOfScene,
  type Scene,
  sceneOfCapture,
  takeInRig,
} from '@varrup/core';
import { type Command, InvalidArgumentError } from 'commander';
import { writeMedia } from './media.ts';
import { fromInput, Refused } from './read-shot.ts';

interface Options {
  readonly to: string;
  readonly rate: number;
  readonly format?: string;
  readonly keysAsTheyAre?: true;
}

const aRate = (text: string): number => {
  const rate = Number(text);
  if (!(rate >= 1 && rate <= 240)) throw new InvalidArgumentError('Give frames a second from 1 to 240.');
  return rate;
};

/** `varrup import FILE --to DIR`: a rig and a shot that links it, made of a file of somebody else. */
export function registerImport(program: Command): void {
  program
    .command('import')
    .description('make a rig and a shot of a glTF or BVH file, or open an archive')
    .argument('<file>', 'the file; - reads it from the standard input, and needs --format')
    .requiredOption(
      '--to <dir>',
      'the folder they go to; it is made if it is missing; - writes the shot to the standard output',
    )
    .option('--format <name>', 'glb, gltf, bvh or archive, where the name of the file does not say')
    .option('--rate <number>', 'frames a second of the shot', aRate, 24)
    .option('--keys-as-they-are', 'keys between frames stay there')
    .addHelpText(
      'after',
      '\nWrites NAME.rig.json and NAME.shot.json; the other commands find the rig beside the shot, and its pictures and sounds in the folder media.\nEnds with 0 where it came in, with 1 where it did not. What was left out goes to the standard error.',
    )
    .action(async (file: string, options: Options) => {
      if (/\.zip$/i.test(file) || options.format === 'archive') return openArchive(file, options.to);
      const name = file === '-' ? 'imported' : basename(file, extname(file));
      const taken = await asTaken(async () => {
        const { scene, left } = await readScene(file, options.format, name);
        const made = rigOfScene(layFigure(scene), { id: newId(), name: name.slice(0, 80), rate: options.rate });
        return { ...made, left: [...left, ...made.left] };
      });
      const { rig, motions } = taken;
      const length = Math.max(48, ...motions.map((m) => m.length + 1));
      const span = { first: 1, last: length };
      const empty = {
        ...emptyShot(newId(), name.slice(0, 80), Rigs.of([rig])),
        rate: options.rate,
        range: span,
        play: span,
      };
      const brought = newRigMembers(empty, { rig: rig.id, version: rig.version });
      const there = takeInRig.apply(empty, { ...brought, clips: [] });
      const laid = options.keysAsTheyAre ? motions : onFrames(motions);
      const { clips, left } = clipsOfMotions(there, brought.members[0].id, laid);
      const shot = takeInRig.apply(empty, { ...brought, clips });
      const text = `${JSON.stringify(documentOf(shot), null, 2)}\n`;
      if (options.to === '-') process.stdout.write(text);
      else {
        const stem = fileStem(name) || 'imported';
        await writeAll(
          options.to,
          [
            [`${stem}.rig.json`, `${JSON.stringify(rig)}\n`],
            [`${stem}.shot.json`, text],
          ],
          taken.media,
        );
      }
      const told = [
        `${rig.joints.length} joints, ${rig.meshes.length} meshes, ${clips.length} clips`,
        ...[...taken.left, ...left].map((what) => `left: ${what}`),
      ];
      process.stderr.write(`${told.join('\n')}\n`);
    });
}

/** Takes an archive apart into the shot and its rigs. */
async function openArchive(file: string, to: string): Promise<void> {
  const bytes = file === '-' ? await fromInput() : await bytesOf(file);
  const { shot, media } = await asTaken(async () => readArchive(bytes));
  const text = `${JSON.stringify(documentOf(shot), null, 2)}\n`;
  if (to === '-') {
    process.stdout.write(text);
    return;
  }
  const rigs = shot.rigs.list.map((rig) => [`${rig.id}-${rig.version}.rig.json`, `${JSON.stringify(rig)}\n`] as const);
  await writeAll(to, [[`${fileStem(shot.name) || 'shot'}.shot.json`, text], ...rigs], media);
}

/** Turns refusals of the core into sentences of the command. */
async function asTaken<T>(make: () => Promise<T>): Promise<T> {
  try {
    return await make();
  } catch (error) {
    throw error instanceof CoreRefused ? new Refused(error.message) : error;
  }
}

async function readScene(
  file: string,
  format: string | undefined,
  name: string,
): Promise<{ scene: Scene; left: readonly string[] }> {
  const kind = format ?? extname(file).slice(1).toLowerCase();
  if (!['glb', 'gltf', 'bvh'].includes(kind))
    throw new Refused(`${file}: is no format known here. Name it .glb, .gltf or .bvh, or say --format.`);
  const bytes = file === '-' ? await fromInput() : await bytesOf(file);
  if (kind === 'bvh') return { scene: sceneOfCapture(readBvh(bytes.toString('utf8')), name).scene, left: [] };
  return readGltf(bytes, kind === 'gltf' && file !== '-' ? await filesBeside(file) : new Map());
}

/** The files beside one, by name, as far as they may be parts of it. */
async function filesBeside(file: string): Promise<Map<string, Uint8Array>> {
  const dir = dirname(file);
  const names = (await readdir(dir)).filter((name) => /\.(bin|png|jpe?g)$/i.test(name));
  return new Map(await Promise.all(names.map(async (name) => [name, await bytesOf(join(dir, name))] as const)));
}

async function bytesOf(file: string): Promise<Buffer> {
  try {
    return await readFile(file);
  } catch (error) {
    throw new Refused(`${file}: cannot be read (${(error as NodeJS.ErrnoException).code ?? 'unknown'})`);
  }
}

async function writeAll(
  dir: string,
  files: readonly (readonly [name: string, text: string])[],
  media: Media,
): Promise<void> {
  try {
    await mkdir(dir, { recursive: true });
    for (const [name, text] of files) await writeFile(join(dir, name), text);
    await writeMedia(dir, media);
  } catch (error) {
    throw new Refused(`${dir}: cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown'})`);
  }
  process.stderr.write(`wrote ${files.map(([name]) => join(dir, name)).join(' and ')}\n`);
}
