import { strFromU8 } from 'fflate';
import { Refused } from '../../schema/refused.ts';
import { checkedGltf, type GltfJson, gltfLimits } from './door.ts';

/** A glTF file taken apart: what it says, and the bytes it names. */
export interface GltfParts {
  readonly json: GltfJson;
  /** By the address they have in `json`; the buffer of a file in one piece by {@link OWN_BUFFER}. */
  readonly resources: Readonly<Record<string, Uint8Array<ArrayBuffer>>>;
}

/** What the reader calls the buffer that lies in the file itself. */
export const OWN_BUFFER = '@glb.bin';

const MAGIC = 0x46546c67;
const JSON_PART = 0x4e4f534a;
const BINARY_PART = 0x004e4942;

/**
 * Takes a file apart, in one piece (`.glb`) or as text (`.gltf`) with the files beside it.
 * @param beside the files that came with it, by name
 * @throws Refused where it is cut short, wrong about itself, or names what is not there
 */
export function gltfParts(bytes: Uint8Array, beside: ReadonlyMap<string, Uint8Array>): GltfParts {
  const whole = [...beside.values()].reduce((sum, file) => sum + file.length, bytes.length);
  if (whole > gltfLimits.bytes) throw new Refused('The file is larger than 500 MB.');
  const isBinary = bytes.length >= 4 && view(bytes).getUint32(0, true) === MAGIC;
  const { text, binary } = isBinary ? binaryParts(bytes) : { text: bytes, binary: null };
  const json = parsed(text);
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  if (binary) resources[OWN_BUFFER] = own(binary);
  const fetched = (uri: string, where: string): Uint8Array => {
    const found = uri.startsWith('data:') ? decoded(uri, where) : beside.get(fileOf(uri, where));
    if (!found) throw new Refused(`${where} names the file “${shortened(uri)}”, which did not come with it.`);
    resources[uri] = own(found);
    return found;
  };
  const file = checkedGltf(json, (buffers) =>
    buffers.map(({ uri, byteLength }, b) => {
      const found = uri === undefined ? (b === 0 ? binary : null) : fetched(uri, `buffers[${b}]`);
      if (!found || found.length < byteLength)
        throw new Refused(`buffers[${b}] is to have ${byteLength} bytes and has ${found?.length ?? 0}.`);
      return byteLength;
    }),
  );
  file.images.forEach(({ uri }, i) => {
    if (uri !== undefined) fetched(uri, `images[${i}]`);
  });
  return { json: file, resources };
}

const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
const own = (bytes: Uint8Array): Uint8Array<ArrayBuffer> => new Uint8Array(bytes);
const shortened = (text: string) => (text.length > 60 ? `${text.slice(0, 60)}…` : text);

function binaryParts(bytes: Uint8Array): { text: Uint8Array; binary: Uint8Array | null } {
  const data = view(bytes);
  if (bytes.length < 20) throw new Refused('The file is cut short: it ends in its first words.');
  const version = data.getUint32(4, true);
  if (version !== 2) throw new Refused(`The file is glTF ${version}; only 2.0 can be read.`);
  const length = data.getUint32(8, true);
  if (length > bytes.length)
    throw new Refused(`The file is cut short: it says it has ${length} bytes and has ${bytes.length}.`);
  let text: Uint8Array | null = null;
  let binary: Uint8Array | null = null;
  for (let at = 12; at + 8 <= length; ) {
    const size = data.getUint32(at, true);
    const kind = data.getUint32(at + 4, true);
    if (at + 8 + size > length)
      throw new Refused('The file is cut short: one of its parts is longer than what is there.');
    const part = bytes.subarray(at + 8, at + 8 + size);
    if (kind === JSON_PART) text ??= part;
    else if (kind === BINARY_PART) binary ??= part;
    at += 8 + size;
  }
  if (!text) throw new Refused('The file has no part that says what is in it.');
  return { text, binary };
}

/** How deep what a file says of itself may go: further than anything needs, and far from what ends a program. */
const DEEPEST = 200;

function parsed(bytes: Uint8Array): unknown {
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < bytes.length; i++) {
    const c = bytes[i];
    if (quoted) {
      if (c === 0x5c) i++;
      else if (c === 0x22) quoted = false;
    } else if (c === 0x22) quoted = true;
    else if (c === 0x7b || c === 0x5b) {
      if (++depth > DEEPEST) throw new Refused(`What the file says of itself goes more than ${DEEPEST} deep.`);
    } else if (c === 0x7d || c === 0x5d) depth--;
  }
  try {
    return JSON.parse(strFromU8(bytes).replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new Refused(`The file is no glTF: what it says of itself is not JSON (${(error as Error).message}).`);
  }
}

/** A file beside it: a plain name, in no other folder and on no other machine. */
function fileOf(uri: string, where: string): string {
  let name: string;
  try {
    name = decodeURIComponent(uri);
  } catch {
    throw new Refused(`${where} names “${shortened(uri)}”, which is no name of a file.`);
  }
  if (/^[a-z][a-z\d+.-]*:|^[/\\]|\\|(^|\/)\.\.(\/|$)|\0/i.test(name))
    throw new Refused(
      `${where} names “${shortened(name)}”, which lies elsewhere: only files that come with it are read.`,
    );
  return name.replace(/^\.\//, '');
}

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const sixBits = new Uint8Array(128).fill(255);
for (let i = 0; i < 64; i++) sixBits[LETTERS.charCodeAt(i)] = i;

/** What stands in an address itself (RFC 2397, base 64). */
function decoded(uri: string, where: string): Uint8Array {
  const comma = uri.indexOf(',');
  if (comma < 0 || !/;base64$/i.test(uri.slice(0, comma)))
    throw new Refused(`${where} has data in it that is not in base 64.`);
  const text = uri.slice(comma + 1).replace(/[=\s]+$/g, '');
  const out = new Uint8Array(Math.floor((text.length * 3) / 4));
  let [bits, held, at] = [0, 0, 0];
  for (let i = 0; i < text.length; i++) {
    const value = sixBits[text.charCodeAt(i)] ?? 255;
    if (value === 255) throw new Refused(`${where} has data in it that is not in base 64.`);
    bits = ((bits << 6) | value) & 0xffffff;
    held += 6;
    if (held >= 8) {
      held -= 8;
      out[at++] = (bits >> held) & 255;
    }
  }
  return out;
}
