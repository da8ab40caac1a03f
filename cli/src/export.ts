import { writeFile } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import {
  type Choices,
  ChoicesSchema,
  Refused as CoreRefused,
  type FormatName,
  formatNames,
  formats,
  type Handed,
  handOn,
  layings,
  mediaOfShot,
  remarksOf,
  type Shot,
  travels,
  usualChoices,
} from '@varrup/core';
import { type Command, InvalidArgumentError, Option } from 'commander';
import { mediaBeside } from './media.ts';
import { Refused, readShot } from './read-shot.ts';

interface Options {
  readonly to: string;
  readonly format?: FormatName;
  readonly frames?: string;
  readonly clip: readonly string[];
  readonly member: readonly string[];
  readonly rate?: number;
  readonly keys: Choices['keys'];
  readonly tolerance: Choices['tolerance'];
  readonly travel: Choices['travel'];
  readonly inPlace?: true;
  readonly onlyDeforming?: true;
  readonly namesAsTheyAre?: true;
  readonly up: Choices['up'];
  readonly scale: number;
  readonly quiet?: true;
}

const aNumber = (text: string): number => {
  const number = Number(text);
  if (text.trim() === '' || !Number.isFinite(number)) throw new InvalidArgumentError('Give a number.');
  return number;
};

const aTolerance = (text: string): Choices['tolerance'] => {
  const found = /^([\d.]+)mm,([\d.]+)deg$/.exec(text);
  if (!found) throw new InvalidArgumentError('Give millimetres and degrees, like 0.05mm,0.005deg.');
  return { millimetres: Number(found[1]), degrees: Number(found[2]) };
};

const several = (text: string, before: readonly string[]): string[] => [...before, text];

/** `varrup export SHOT.json --to FILE`: hands a shot on as a file that other programs read. */
export function registerExport(program: Command): void {
  program
    .command('export')
    .description('hand a shot on as glTF, BVH, a point cache, a table of curves, sound or an archive')
    .argument('<file>', "a shot's document; - reads it from the standard input")
    .requiredOption('--to <file>', 'where it goes; - writes to the standard output, and needs --format')
    .addOption(
      new Option('--format <name>', 'what it is written as, where the name of the file does not say').choices(
        formatNames,
      ),
    )
    .option(
      '--frames <span>',
      'frames of the shot as one motion: whole, play, none, or 1-48 (play, where no clip is named)',
    )
    .option('--clip <name>', 'a clip as a motion of its own; again for more; all for every one', several, [])
    .option('--member <name>', 'of the cast only this one, with what belongs to it; again for more', several, [])
    .option('--rate <number>', "frames a second where there is a key at every frame (the shot's)", aNumber)
    .addOption(
      new Option('--keys <how>', 'a key at every frame; or as few as are needed, bent or straight between')
        .choices([...layings])
        .default(usualChoices.keys),
    )
    .option('--tolerance <mm,deg>', 'how far the motion may go from what it was', aTolerance, usualChoices.tolerance)
    .addOption(
      new Option('--travel <who>', "who carries a rig's travel: its node, a joint of its own, or nobody")
        .choices([...travels])
        .default(usualChoices.travel),
    )
    .option('--in-place', 'the same as --travel none')
    .option('--only-deforming', 'of the joints only those that something hangs on')
    .option('--names-as-they-are', 'names as they are, not made plain')
    .addOption(new Option('--up <axis>', 'which way is up where it goes').choices(['y', 'z']).default('y'))
    .option('--scale <number>', 'how many of its units a metre is', aNumber, 1)
    .option('--quiet', 'say nothing but what is wrong')
    .addHelpText(
      'after',
      '\nEnds with 0 where it was written, with 1 where it could not be. What it says goes to the standard error.',
    )
    .action(async (file: string, options: Options) => {
      const shot = await readShot(file);
      const format = formatOf(options);
      const choices = choicesOf(shot, options);
      const media = await mediaBeside(file, mediaOfShot(shot));
      const handed = await handOn(shot, format, choices, { media }).catch((error: unknown) => {
        throw error instanceof CoreRefused ? new Refused(error.message) : error;
      });
      const names = await write(handed, options.to);
      if (!options.quiet) process.stderr.write(report(shot, choices, handed, names));
    });
}

function formatOf({ to, format }: Options): FormatName {
  const extension = extname(to).slice(1).toLowerCase();
  const known = format ?? formatNames.find((name) => formats[name].extension === extension);
  if (known) return known;
  throw new Refused(
    to === '-'
      ? `Say with --format what is to be written: ${formatNames.join(', ')}.`
      : `${to}: ends like no format known here. Name it .glb, .gltf, .bvh, .npz, .csv, .wav or .zip, or say --format.`,
  );
}

function choicesOf(shot: Shot, options: Options): Choices {
  const { clip: wanted, member, rate = shot.rate, keys, tolerance, up, scale } = options;
  const all = shot.clips.values();
  const clips = wanted.flatMap((name) => {
    const found = name === 'all' ? all : all.filter((c) => c.name === name);
    if (found.length === 0)
      throw new Refused(
        `There is no clip “${name}”${all.length > 0 ? `; there are ${all.map((c) => c.name).join(', ')}` : ' in the shot'}.`,
      );
    return found.map((c) => c.id);
  });
  const members = member.map((name) => {
    const found = shot.members.values().find((m) => m.name === name || m.id === name);
    if (!found) throw new Refused(`There is nobody called “${name}” in the cast.`);
    return found.id;
  });
  const frames = framesOf(shot, options.frames ?? (clips.length > 0 ? 'none' : 'play'));
  // Clips by themselves are of their rigs, not of all that stands around.
  const rigs = frames ? [] : clips.map((id) => shot.clips.at(id).rig);
  const chosen = members.length > 0 ? members : [...new Set(rigs)];
  const parsed = ChoicesSchema.safeParse({
    frames,
    clips: [...new Set(clips)],
    members: chosen.length > 0 ? chosen : null,
    keys,
    rate,
    tolerance,
    travel: options.inPlace ? 'none' : options.travel,
    joints: options.onlyDeforming ? 'deforming' : 'all',
    plainNames: !options.namesAsTheyAre,
    up,
    scale,
  } satisfies Choices);
  if (parsed.success) return parsed.data;
  throw new Refused(parsed.error.issues.map((issue) => `--${issue.path.join('.')}: ${issue.message}`).join('\n'));
}

function framesOf(shot: Shot, text: string): Choices['frames'] {
  if (text === 'none') return null;
  if (text === 'whole') return shot.range;
  if (text === 'play') return shot.play;
  const span = /^(-?\d+)-(-?\d+)$/.exec(text);
  if (!span) throw new Refused(`--frames ${text}: give whole, play, none, or a span like 1-48.`);
  const [first, last] = [Number(span[1]), Number(span[2])];
  if (first > last) throw new Refused(`--frames ${text}: it ends before it begins.`);
  return { first, last };
}

/** Writes the files; where there are several that are no parts of one, each has its own name beside the one asked for. */
async function write({ files }: Handed, to: string): Promise<string[]> {
  if (to === '-') {
    if (files.length > 1) throw new Refused(`${files.length} files do not go into one stream: name a file with --to.`);
    process.stdout.write(files[0].bytes);
    return [];
  }
  const stem = basename(to, extname(to));
  const isInParts = files[0].name.endsWith('.gltf');
  const names = files.map(({ name }, i) => {
    if (i === 0 && (files.length === 1 || isInParts)) return to;
    return join(dirname(to), isInParts ? name : `${stem}-${name}`);
  });
  for (const [i, name] of names.entries()) {
    try {
      await writeFile(name, files[i].bytes);
    } catch (error) {
      throw new Refused(`${name}: cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown'})`);
    }
  }
  return names;
}

function report(shot: Shot, choices: Choices, { motions, left }: Handed, names: readonly string[]): string {
  const lines = [
    ...names.map((name) => `wrote ${name}`),
    ...motions.map(({ name, seconds, keys, off }) => {
      const change = off ? `, ${off.millimetres.toFixed(3)} mm and ${off.degrees.toFixed(4)}° off at most` : '';
      return `${name}: ${seconds.toFixed(2)} s, ${keys} keys${change}`;
    }),
    ...left.map(({ of, text }) => `left: ${of}: ${text}`),
    ...remarksOf(shot, choices).map((remark) => `note: ${remark.text}`),
  ];
  return `${lines.join('\n')}\n`;
}
