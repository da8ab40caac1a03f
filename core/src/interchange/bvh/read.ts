import { Refused } from '../../schema/refused.ts';
import {
  type Capture,
  type CaptureChannel,
  type CaptureJoint,
  captureChannels,
  captureLimits,
  captureWidth,
  type Offset,
} from './capture.ts';

/** How files spell the channels. */
const SPELLED = new Map<string, CaptureChannel>(
  captureChannels.map((channel) => {
    const [kind, axis] = channel.split('.');
    return [`${axis.toUpperCase()}${kind === 'move' ? 'position' : 'rotation'}`.toLowerCase(), channel];
  }),
);

/**
 * Reads a BVH file (Biovision hierarchy: a skeleton, then a line of numbers for each frame). Several roots are read one after
 * another. What is no such file, or too much of one, is refused with the line it is on; numbers beyond the last frame are left.
 */
export function readBvh(text: string): Capture {
  if (text.length > captureLimits.size) throw new Refused('The capture is larger than 200 MB.');
  const words = new Words(text);
  words.expect('HIERARCHY');
  const joints: Draft[] = [];
  while (words.takes('ROOT')) readSkeleton(words, joints);
  if (joints.length === 0) throw words.refused('A skeleton begins with ROOT');
  words.expect('MOTION');
  words.expect('Frames:');
  const frames = words.whole('how many frames there are', captureLimits.frames);
  words.expect('Frame');
  words.expect('Time:');
  const seconds = words.number('how long a frame takes');
  if (!(seconds >= 1 / captureLimits.rate && seconds <= 10))
    throw words.refused(`A frame takes ${seconds} s; it can take from 0.001 to 10`);
  return { joints, rate: rateOf(seconds), frames, values: readFrames(words, frames, captureWidth(joints)) };
}

/** Files round the time of a frame: 0.0333333 s is meant as 30 frames a second, and 0.0333667 s as 29.97. */
function rateOf(seconds: number): number {
  const rate = 1 / seconds;
  const whole = Math.round(rate);
  return Math.abs(rate - whole) < whole * 2e-4 ? whole : rate;
}

/** A joint whose end is still to be read. */
type Draft = { -readonly [K in keyof CaptureJoint]: CaptureJoint[K] };

/** One root and all that hangs on it. Read in a loop, so that a deep skeleton costs no stack. */
function readSkeleton(words: Words, joints: Draft[]): void {
  /** The joints that are open, from the root down. */
  const open = [readJoint(words, joints, -1)];
  while (open.length > 0) {
    const at = open[open.length - 1];
    if (words.takes('}')) open.pop();
    else if (words.takes('JOINT')) {
      if (open.length >= captureLimits.depth)
        throw words.refused(`The skeleton is deeper than ${captureLimits.depth} joints`);
      open.push(readJoint(words, joints, at));
    } else if (words.takes('End')) {
      // `End Site`, which some give a name of its own.
      while (!words.takes('{')) words.next('what the end is called');
      words.expect('OFFSET');
      joints[at].end = readOffset(words);
      words.expect('}');
    } else throw words.refused('JOINT, End Site or } should stand here');
  }
}

/** A joint up to what it carries, which is opened and not closed yet. Gives its number. */
function readJoint(words: Words, joints: Draft[], parent: number): number {
  if (joints.length >= captureLimits.joints)
    throw words.refused(`The capture has more than ${captureLimits.joints} joints`);
  const name: string[] = [];
  while (!words.takes('{')) name.push(words.next('what a joint is called'));
  const joint: Draft = { name: name.join(' ').slice(0, 200), parent, offset: [0, 0, 0], channels: [], end: null };
  words.expect('OFFSET');
  joint.offset = readOffset(words);
  if (words.takes('CHANNELS')) {
    const count = words.whole('how many channels there are', captureChannels.length);
    joint.channels = Array.from({ length: count }, () => readChannel(words));
    if (new Set(joint.channels).size < count) throw words.refused('The joint has one channel twice');
  }
  joints.push(joint);
  return joints.length - 1;
}

function readChannel(words: Words): CaptureChannel {
  const word = words.next('the name of a channel');
  const channel = SPELLED.get(word.toLowerCase());
  if (!channel)
    throw words.refused(`“${word.slice(0, 40)}” is no channel; they are called Xposition, Zrotation and so on`);
  return channel;
}

const readOffset = (words: Words): Offset => [
  words.number('an offset'),
  words.number('an offset'),
  words.number('an offset'),
];

function readFrames(words: Words, frames: number, width: number): Float64Array {
  const count = frames * width;
  if (count > captureLimits.values)
    throw new Refused(
      `${frames} frames of ${width} numbers are more than the ${captureLimits.values} that can be read.`,
    );
  const values = new Float64Array(count);
  for (let f = 0; f < frames; f++) {
    const what = `frame ${f + 1} of ${frames}`;
    for (let i = f * width; i < (f + 1) * width; i++) values[i] = words.number(what);
  }
  return values;
}

const BRACES: ReadonlySet<string> = new Set(['{', '}']);

/** The words of a text, one after another, and the line each stands on. */
class Words {
  readonly #text: string;
  #at = 0;
  #line = 1;

  constructor(text: string) {
    this.#text = text;
    // A mark of the encoding at the beginning is no word.
    if (text.charCodeAt(0) === 0xfeff) this.#at = 1;
  }

  refused(sentence: string): Refused {
    return new Refused(`Line ${this.#line} of the capture: ${sentence}.`);
  }

  #skip(): void {
    const text = this.#text;
    for (; this.#at < text.length; this.#at++) {
      const code = text.charCodeAt(this.#at);
      if (code === 10) this.#line++;
      if (code > 32) return;
    }
  }

  next(what: string): string {
    this.#skip();
    const from = this.#at;
    while (!this.#isOver(this.#at)) this.#at++;
    // A brace is a word of its own, also where it stands next to another.
    if (this.#at === from && from < this.#text.length) this.#at++;
    if (this.#at === from) throw this.refused(`The file ends where ${what} should stand`);
    return this.#text.slice(from, this.#at);
  }

  /** Whether the next word is this one, whatever its case; if it is, it is taken. */
  takes(word: string): boolean {
    this.#skip();
    const end = this.#at + word.length;
    if (this.#text.slice(this.#at, end).toLowerCase() !== word.toLowerCase()) return false;
    if (!BRACES.has(word) && !this.#isOver(end)) return false;
    this.#at = end;
    return true;
  }

  /** Whether no word goes on here. */
  #isOver(at: number): boolean {
    return at >= this.#text.length || this.#text.charCodeAt(at) <= 32 || BRACES.has(this.#text[at]);
  }

  expect(word: string): void {
    if (!this.takes(word)) throw this.refused(`${word} should stand here`);
  }

  number(what: string): number {
    const word = this.next(what);
    const value = Number(word);
    // The whole word, and nothing that only JavaScript takes for a number.
    if (!Number.isFinite(value) || Math.abs(value) > 1e9 || !/^[-+.\d]/.test(word) || /^[-+]?0[xob]/i.test(word))
      throw this.refused(`“${word.slice(0, 40)}” is no number that ${what} can have`);
    return value;
  }

  whole(what: string, most: number): number {
    const value = this.number(what);
    if (!Number.isInteger(value) || value < 0 || value > most)
      throw this.refused(`${value} cannot be ${what}: from 0 to ${most}`);
    return value;
  }
}
