import { createInflate } from 'node:zlib';
import sharp from 'sharp';

/** So many seconds may be spent on a picture. */
const SECONDS = 5;

/**
 * Whether bytes are a picture of a kind from the first pixel to the last: it is decoded as a whole, off the main thread, and made small, which
 * costs little beside it.
 * @param format as `sharp` names it @param pixels it may have so many
 */
export async function isWholePicture(bytes: Buffer, format: string, pixels: number): Promise<boolean> {
  try {
    const picture = sharp(bytes, { limitInputPixels: pixels, failOn: 'warning', pages: 1, sequentialRead: true });
    if ((await picture.metadata()).format !== format) return false;
    if (format === 'png' && !(await holdsWhatItSays(bytes))) return false;
    await picture
      .timeout({ seconds: SECONDS })
      .resize(16, 16, { fit: 'fill', kernel: 'cubic', fastShrinkOnLoad: false })
      .raw()
      .toBuffer();
    return true;
  } catch {
    return false;
  }
}

/** Samples a pixel, by the kind of colour that a PNG says it has. */
const SAMPLES: Readonly<Record<number, number>> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** Where the pixels of the seven passes of an interlaced PNG begin, and how far apart they are: across and down. */
const PASSES = [
  [0, 8, 0, 8],
  [4, 8, 0, 8],
  [0, 4, 4, 8],
  [2, 4, 0, 4],
  [0, 2, 2, 4],
  [1, 2, 0, 2],
  [0, 1, 1, 2],
] as const;

/** Whether a PNG holds as many bytes of pixels as its size asks for: a decoder reads so many and says nothing of more. */
async function holdsWhatItSays(bytes: Buffer): Promise<boolean> {
  const inflate = createInflate();
  let size = 0;
  const wanted = pixelBytes(bytes);
  const over = new Promise<boolean>((done) => {
    inflate.on('data', (chunk: Buffer) => {
      size += chunk.length;
      if (size > wanted) done(false);
    });
    inflate.once('end', () => done(size === wanted));
    inflate.once('error', () => done(false));
  });
  for (const { type, data } of chunksOf(bytes)) if (type === 'IDAT') inflate.write(data);
  inflate.end();
  const holds = await over;
  inflate.destroy();
  return holds;
}

/** How many bytes the rows of a PNG have, each with the one that says how it is filtered. */
function pixelBytes(bytes: Buffer): number {
  const [width, height] = [bytes.readUInt32BE(16), bytes.readUInt32BE(20)];
  const bits = bytes[24] * (SAMPLES[bytes[25]] ?? 0);
  const rows = (across: number, down: number) => (across > 0 ? down * (1 + Math.ceil((across * bits) / 8)) : 0);
  if (bytes[28] === 0) return rows(width, height);
  return PASSES.reduce(
    (sum, [x, dx, y, dy]) => sum + rows(Math.ceil((width - x) / dx), Math.max(0, Math.ceil((height - y) / dy))),
    0,
  );
}

function* chunksOf(bytes: Buffer): Generator<{ type: string; data: Buffer }> {
  for (let at = 8; at + 12 <= bytes.length; ) {
    const length = bytes.readUInt32BE(at);
    yield { type: bytes.toString('latin1', at + 4, at + 8), data: bytes.subarray(at + 8, at + 8 + length) };
    at += 12 + length;
  }
}
