import { connect } from 'node:net';
import { deflateSync } from 'node:zlib';
import {
  addSounds,
  difference,
  emptyShot,
  mediaHash,
  mediaLimits,
  outlineOf,
  type PlacedSound,
  type RigDraft,
  writeWav,
} from '@varrup/core';
import { harbourRigs } from '@varrup/demo';
import { BufferTarget, EncodedPacket, EncodedVideoPacketSource, Output, WebMOutputFormat } from 'mediabunny';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import { verify } from '../care/verify.ts';
import { dropUnusedMedia } from '../store/media/index.ts';
import { startTestServer, type TestServer } from '../testing/server.ts';

let server: TestServer;
let production = '';
let picture: Buffer;

beforeAll(async () => {
  server = await startTestServer();
  const made = await server.send('POST', '/api/productions', { name: 'Media' });
  production = (made.body as { id: string }).id;
  picture = await sharp({ create: { width: 3, height: 2, channels: 3, background: '#c4432b' } })
    .png()
    .toBuffer();
}, 60_000);
afterAll(() => server.close());

/** A short tone; each pitch is another sound. */
const tone = (hertz: number) =>
  writeWav(
    Float32Array.from({ length: 4_800 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * hertz * i) / 48_000)),
    48_000,
  );

const put = (bytes: Uint8Array, hash = mediaHash(bytes)) =>
  server.send('PUT', `/api/media/${hash}`, bytes, { 'content-type': 'application/octet-stream' });
const get = (hash: string, headers: Record<string, string> = {}) =>
  fetch(`${server.address}/api/media/${hash}`, { headers });

const soundOf = (media: string): PlacedSound => ({
  id: `s${media.slice(0, 4)}`,
  name: 'Tone',
  sound: { media, seconds: 0.1 },
  frame: 3,
  gain: 1,
});

describe('media', () => {
  test('come back byte for byte, as what they are, once and for good', async () => {
    const bytes = tone(440);
    const hash = mediaHash(bytes);
    expect((await get(hash)).status).toBe(404);
    expect((await put(bytes)).status).toBe(204);
    expect((await put(bytes)).status).toBe(204);
    const answer = await get(hash);
    expect(answer.headers.get('content-type')).toBe('audio/wav');
    expect(answer.headers.get('cache-control')).toContain('immutable');
    expect(new Uint8Array(await answer.arrayBuffer())).toEqual(bytes);
    const [{ count }] = await server.database.query('SELECT count(*)::int AS count FROM media WHERE hash = $1', [hash]);
    expect(count).toBe(1);
  });

  test('are given in parts to whoever asks for parts', async () => {
    const bytes = tone(441);
    await put(bytes);
    for (const [range, first, last] of [
      ['bytes=0-3', 0, 3],
      ['bytes=100-', 100, bytes.length - 1],
      ['bytes=-10', bytes.length - 10, bytes.length - 1],
    ] as const) {
      const part = await get(mediaHash(bytes), { range });
      expect(part.status).toBe(206);
      expect(part.headers.get('content-range')).toBe(`bytes ${first}-${last}/${bytes.length}`);
      expect(new Uint8Array(await part.arrayBuffer())).toEqual(bytes.slice(first, last + 1));
    }
    const beyond = await get(mediaHash(bytes), { range: `bytes=${bytes.length}-` });
    expect(beyond.status).toBe(416);
    expect(beyond.headers.get('content-range')).toBe(`bytes */${bytes.length}`);
  });

  test('that are something else, broken, or nothing are refused with a sentence', async () => {
    const text = new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg"/>');
    expect(await put(text)).toMatchObject({ status: 415, body: { error: expect.stringContaining('It is no sound') } });
    expect(await put(picture.subarray(0, picture.length - 20))).toMatchObject({
      status: 415,
      body: { error: expect.stringContaining('broken') },
    });
    expect(await put(tone(1), mediaHash(tone(2)))).toMatchObject({ status: 422 });
    expect((await put(new Uint8Array())).status).toBe(400);
    expect((await put(tone(1), 'abc')).status).toBe(404);
    expect((await get(mediaHash(tone(1)))).status).toBe(404);
    expect((await put(picture)).status).toBe(204);
    expect((await get(mediaHash(picture))).headers.get('content-type')).toBe('image/png');
  });

  test('a sound is in the store before a shot lays it under its sheet, or the edit is refused', async () => {
    const { id } = (await server.send('POST', `/api/productions/${production}/shots`, { name: 'Heard' })).body as {
      id: string;
    };
    const bytes = tone(600);
    const shot = emptyShot(id, 'Heard');
    const { patches } = difference(shot, addSounds.apply(shot, { sounds: [soundOf(mediaHash(bytes))] }));
    const commit = { base: 0, edits: [{ id: 'edit1', command: 'sound.add', label: 'lay it', patches }] };
    const refused = await server.send('POST', `/api/shots/${id}/edits`, commit);
    expect(refused).toMatchObject({ status: 422, body: { error: expect.stringContaining('must be sent first') } });
    await put(bytes);
    expect((await server.send('POST', `/api/shots/${id}/edits`, commit)).status).toBe(200);
  });

  test('a document and a rig that need what is not there are refused too', async () => {
    const shot = addSounds.apply(emptyShot('d', 'D'), { sounds: [soundOf(mediaHash(tone(700)))] });
    const path = `/api/productions/${production}/shots`;
    expect((await server.send('POST', path, { name: 'D', document: shot })).status).toBe(422);
    await put(tone(700));
    expect((await server.send('POST', path, { name: 'D', document: shot })).status).toBe(201);

    const [glove] = harbourRigs().list.filter((r) => r.id === 'glove');
    const painted = (media: string): RigDraft => ({
      ...glove,
      id: 'painted',
      meshes: glove.meshes.map((mesh) => ({
        ...mesh,
        material: {
          roughness: 1,
          metalness: 0,
          bothSides: false,
          picture: { media, places: Array.from({ length: (mesh.positions.length / 3) * 2 }, () => 0), cutOut: false },
        },
      })),
    });
    expect((await server.send('POST', '/api/rigs', painted(mediaHash(tone(710))))).status).toBe(422);
    await put(picture);
    expect((await server.send('POST', '/api/rigs', painted(mediaHash(picture)))).status).toBe(201);
  });

  test('that are spoilt where they lie are found when all is looked through', async () => {
    const hash = mediaHash(tone(820));
    await put(tone(820));
    expect((await verify(server.database)).problems).toEqual([]);
    await server.database.query(`UPDATE media_parts SET bytes = bytes || '\\x00' WHERE of = $1`, [hash]);
    await server.database.query('UPDATE media SET size = size + 1 WHERE hash = $1', [hash]);
    expect((await verify(server.database)).problems).toEqual([`the wav ${hash} is not what was put in`]);
    await server.database.query('DELETE FROM media WHERE hash = $1', [hash]);
    await server.database.query('DELETE FROM media_parts WHERE of = $1', [hash]);
  });

  test('that nobody needs go after a week; what a shot or a rig has ever needed stays', async () => {
    const [unused, used, fresh] = [tone(800), tone(801), tone(802)];
    for (const bytes of [unused, used, fresh]) await put(bytes);
    await put(picture);
    const shot = addSounds.apply(emptyShot('u', 'U'), { sounds: [soundOf(mediaHash(used))] });
    await server.send('POST', `/api/productions/${production}/shots`, { name: 'U', document: shot });
    const old = [unused, used, picture].map((bytes) => mediaHash(bytes));
    await server.database.query(`UPDATE media SET made_at = now() - interval '8 days' WHERE hash = ANY($1)`, [old]);
    expect(await dropUnusedMedia(server.database.manager)).toBe(1);
    const statuses = await Promise.all(
      [unused, used, fresh, picture].map(async (b) => (await get(mediaHash(b))).status),
    );
    expect(statuses).toEqual([404, 200, 200, 200]);
  });

  test('of a long one any part is given, over the borders of what it lies in', async () => {
    const film = await filmOf(3_400_000);
    const hash = mediaHash(film);
    expect((await put(film)).status).toBe(204);
    const answer = await get(hash);
    expect(answer.headers.get('content-type')).toBe('video/webm');
    expect(Buffer.from(await answer.arrayBuffer()).equals(film)).toBe(true);
    for (const [first, last] of [
      [1_048_570, 1_048_580],
      [1_048_576, 2_097_151],
      [5, 3_000_000],
      [film.length - 1, film.length - 1],
    ]) {
      const part = await get(hash, { range: `bytes=${first}-${last}` });
      expect(Buffer.from(await part.arrayBuffer()).equals(film.subarray(first, last + 1))).toBe(true);
    }
    const head = await fetch(`${server.address}/api/media/${hash}`, { method: 'HEAD' });
    expect([head.status, head.headers.get('content-length')]).toEqual([200, String(film.length)]);
  });

  test('what only begins as footage is refused, and so is footage without a picture', async () => {
    const film = await filmOf(2_000);
    const pretender = Buffer.concat([film.subarray(0, 40), Buffer.alloc(5_000, 7)]);
    expect(await put(pretender)).toMatchObject({ status: 415, body: { error: expect.stringContaining('broken') } });
    const box = Buffer.from('\0\0\0\x14ftypisom\0\0\0\0isom\0\0\0\x08moov', 'latin1');
    expect((await put(box)).status).toBe(415);
    const wav = Buffer.from(tone(900));
    expect((await put(Buffer.concat([wav.subarray(0, 12), Buffer.alloc(300, 1)]))).status).toBe(415);
    expect(await leftOver()).toBe(0);
  });

  test('of an upload that is cut off nothing is left, and nobody sees any of it', async () => {
    const film = await filmOf(3_000_000);
    const hash = mediaHash(film);
    const { port } = new URL(server.address);
    const socket = connect(Number(port), '127.0.0.1');
    socket.on('error', () => {});
    socket.write(
      `PUT /api/media/${hash} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nx-varrup: test\r\nContent-Length: ${film.length}\r\n\r\n`,
    );
    socket.write(film.subarray(0, 2_500_000));
    await vi.waitFor(async () => expect(await leftOver()).toBeGreaterThan(0), 10_000);
    expect((await get(hash)).status).toBe(404);
    socket.destroy();
    await vi.waitFor(async () => expect(await leftOver()).toBe(0), 10_000);
    expect((await get(hash)).status).toBe(404);
    expect((await put(film)).status).toBe(204);
  });

  test('have a poster and a waveform, made once, of nothing that is not there', async () => {
    const film = await filmOf(2_100);
    const hash = mediaHash(film);
    const jpeg = await sharp({ create: { width: 4, height: 3, channels: 3, background: '#224466' } })
      .jpeg()
      .toBuffer();
    const make = (what: string, bytes: Uint8Array, of = hash) =>
      server.send('PUT', `/api/media/${of}/${what}`, bytes, { 'content-type': 'application/octet-stream' });
    expect((await make('poster', jpeg)).status).toBe(404);
    await put(film);
    expect((await fetch(`${server.address}/api/media/${hash}/poster`)).status).toBe(404);
    for (const bytes of [picture, jpeg.subarray(0, 3), jpeg.subarray(0, jpeg.length - 30), Buffer.from('hello')])
      expect((await make('poster', bytes)).status).toBe(415);
    expect((await make('poster', jpeg)).status).toBe(204);
    expect((await make('poster', Buffer.concat([jpeg, Buffer.alloc(1)]))).status).toBe(204);
    const poster = await fetch(`${server.address}/api/media/${hash}/poster`);
    expect(Buffer.from(await poster.arrayBuffer()).equals(jpeg)).toBe(true);

    const outline = outlineOf(new Float32Array(48_000).fill(0.5), 48_000, mediaLimits.waveform);
    for (const bytes of [
      Uint8Array.of(1, 2, 3),
      Uint8Array.of(0, 0, 9),
      outline.subarray(0, 2),
      Buffer.alloc(99_000, 1),
    ])
      expect((await make('waveform', bytes)).status).toBe(415);
    expect((await make('waveform', outline)).status).toBe(204);
    expect((await make('waveform', Buffer.alloc(200_000))).status).toBe(413);
    await put(picture);
    expect((await make('waveform', outline, mediaHash(picture))).status).toBe(415);
  });

  test('that are not there as asked are said to be, and that is not kept', async () => {
    const bytes = tone(500);
    await put(bytes);
    const answer = await get(mediaHash(bytes), { range: `bytes=${bytes.length + 5}-` });
    expect(answer.status).toBe(416);
    expect(answer.headers.get('content-type')).toContain('application/json');
    expect(answer.headers.get('cache-control')).toBe('no-store');
    expect(await answer.json()).toMatchObject({ error: expect.stringContaining(`It has ${bytes.length} bytes`) });
  });

  test('in a great many parts are refused soon', async () => {
    const box = Buffer.from([0, 0, 0, 8, ...Buffer.from('free')]);
    const film = Buffer.concat([
      Buffer.from([0, 0, 0, 16, ...Buffer.from('ftypisom'), 0, 0, 2, 0]),
      ...Array.from({ length: 10_000 }, () => box),
    ]);
    expect(await put(film)).toMatchObject({
      status: 415,
      body: { error: expect.stringContaining('footage is broken') },
    });
  });

  test('that are pictures hold as many pixels as they say', async () => {
    const row = 1 + 64 * 3;
    const said = pngOf(1, 1, Buffer.alloc(64 * row));
    expect((await put(said)).status).toBe(415);
    expect((await put(pngOf(64, 64, Buffer.alloc(64 * row)))).status).toBe(204);
    expect((await put(pngOf(64, 64, Buffer.alloc(63 * row)))).status).toBe(415);
  });
});

/** A PNG that says it has some size, and holds some rows. */
function pngOf(width: number, height: number, rows: Buffer): Buffer {
  const chunk = (type: string, data: Buffer) => {
    const named = Buffer.concat([Buffer.from(type), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc32(named));
    return Buffer.concat([length, named, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  const begin = Buffer.from('\x89PNG\r\n\x1a\n', 'latin1');
  return Buffer.concat([begin, chunk('IHDR', head), chunk('IDAT', deflateSync(rows)), chunk('IEND', Buffer.alloc(0))]);
}

/** The sum that PNG ends its parts with. */
function crc32(bytes: Buffer): number {
  let sum = ~0;
  for (const byte of bytes) {
    sum ^= byte;
    for (let bit = 0; bit < 8; bit++) sum = (sum >>> 1) ^ (sum & 1 ? 0xedb88320 : 0);
  }
  return ~sum >>> 0;
}

/** Parts of uploads that came to nothing, or are under way. */
async function leftOver(): Promise<number> {
  const [{ count }] = await server.database.query(
    `SELECT count(*)::int AS count FROM media_parts p WHERE NOT EXISTS (SELECT FROM media m WHERE m.hash = p.of)`,
  );
  return count;
}

/** Footage of about so many bytes: its tracks are right, and nobody looks at its pictures here. */
async function filmOf(bytes: number): Promise<Buffer> {
  const output = new Output({ format: new WebMOutputFormat(), target: new BufferTarget() });
  const source = new EncodedVideoPacketSource('vp8');
  output.addVideoTrack(source, { frameRate: 24 });
  await output.start();
  const meta = { decoderConfig: { codec: 'vp8', codedWidth: 64, codedHeight: 36 } };
  for (let i = 0; i < 10; i++) {
    const data = Uint8Array.from({ length: Math.ceil(bytes / 10) }, (_, k) => (k * 31 + i * 7) & 255);
    await source.add(new EncodedPacket(data, i === 0 ? 'key' : 'delta', i / 24, 1 / 24), i === 0 ? meta : undefined);
  }
  await output.finalize();
  return Buffer.from(output.target.buffer!);
}
