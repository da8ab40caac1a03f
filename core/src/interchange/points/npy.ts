import { strFromU8, strToU8 } from 'fflate';
import { Refused } from '../../schema/refused.ts';

/**
 * Arrays in the layout NPY 1.0, which numerical programs share: a line of text that says what is in it, then the numbers.
 */

const MAGIC = [0x93, 0x4e, 0x55, 0x4d, 0x50, 0x59, 1, 0];
const kinds = { '<f4': Float32Array, '<u4': Uint32Array } as const;

export function writeNpy(shape: readonly number[], numbers: Float32Array | Uint32Array): Uint8Array {
  const kind = numbers instanceof Float32Array ? '<f4' : '<u4';
  const about = `{'descr': '${kind}', 'fortran_order': False, 'shape': (${shape.join(', ')}${shape.length === 1 ? ',' : ''}), }`;
  // The numbers begin at a multiple of 64, after a line that ends.
  const header = `${about.padEnd(Math.ceil((about.length + 11) / 64) * 64 - 11)}\n`;
  const out = new Uint8Array(10 + header.length + numbers.byteLength);
  out.set(MAGIC);
  new DataView(out.buffer).setUint16(8, header.length, true);
  out.set(strToU8(header), 10);
  out.set(new Uint8Array(numbers.buffer, numbers.byteOffset, numbers.byteLength), 10 + header.length);
  return out;
}

/** @throws Refused where it is no such array of single numbers or whole ones */
export function readNpy(bytes: Uint8Array, what: string): { shape: number[]; numbers: Float32Array | Uint32Array } {
  const refused = (why: string) => new Refused(`${what}: ${why}`);
  if (bytes.length < 10 || MAGIC.some((byte, i) => bytes[i] !== byte))
    throw refused('is no array in the layout NPY 1.0');
  const length = bytes[8] + 256 * bytes[9];
  const header = strFromU8(bytes.subarray(10, 10 + length));
  const found = /^\{'descr': '(<f4|<u4)', 'fortran_order': False, 'shape': \(([\d, ]*)\), \}\s*$/.exec(header);
  if (!found) throw refused('is no array of single-precision or whole numbers, row by row');
  const shape = found[2]
    .split(',')
    .filter((n) => n.trim() !== '')
    .map(Number);
  const count = shape.reduce((product, n) => product * n, 1);
  const from = 10 + length;
  if (!Number.isSafeInteger(count) || bytes.length - from !== count * 4)
    throw refused(`says it holds ${shape.join(' × ')} numbers and has ${Math.floor((bytes.length - from) / 4)}`);
  const own = bytes.slice(from);
  return { shape, numbers: new kinds[found[1] as keyof typeof kinds](own.buffer) };
}
