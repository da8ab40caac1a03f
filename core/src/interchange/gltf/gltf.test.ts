import fc from 'fast-check';
import { strToU8 } from 'fflate';
import { describe, expect, test } from 'vitest';
import { Refused } from '../../schema/refused.ts';
import { castWithRigs } from '../../testing/arbitraries.ts';
import { valueAt, worldsAt } from '../../testing/scene-player.ts';
import { bake } from '../bake/bake.ts';
import { usualChoices } from '../bake/choices.ts';
import { readGltf } from './read.ts';
import { writeGlb, writeGltf } from './write.ts';

/** A motion in which nothing moves is not written. */
const STILL = { name: '', seconds: 0, tracks: [] };
const choices = { ...usualChoices, frames: { first: 1, last: 6 }, clips: [], rate: 24, plainNames: false };

describe('a scene', () => {
  test('comes in again as it went out: nodes, bodies, skins and movement, to single precision', async () => {
    await fc.assert(
      fc.asyncProperty(castWithRigs, async (shot) => {
        const { scene } = bake(shot, choices);
        const { scene: again, left } = await readGltf(await writeGlb(scene));
        expect(left).toEqual([]);
        const at = scene.nodes.map(({ name }) => again.nodes.findIndex((n) => n.name === name));
        expect(again.nodes).toHaveLength(scene.nodes.length);
        scene.nodes.forEach(({ parent, mesh, skin, camera, light }, n) => {
          const other = again.nodes[at[n]];
          expect(other.parent).toBe(parent < 0 ? -1 : at[parent]);
          expect([mesh, skin].map((v) => v !== undefined)).toEqual(
            [other.mesh, other.skin].map((v) => v !== undefined),
          );
          if (mesh !== undefined)
            expect(again.meshes[other.mesh!].parts.map((p) => p.mesh.triangles)).toEqual(
              scene.meshes[mesh].parts.map((p) => p.mesh.triangles),
            );
          if (camera) expect(other.camera!.view).toBeCloseTo(camera.view, 5);
          if (light) expect(other.light!.colour).toEqual(light.colour.map((v) => expect.closeTo(v, 4)));
        });
        for (const seconds of [0, 0.05, 0.125]) {
          const ours = worldsAt(scene, scene.motions[0], seconds);
          const theirs = worldsAt(again, again.motions[0] ?? STILL, seconds);
          const reach = Math.max(1, ...ours.map(Math.abs));
          at.forEach((other, n) => {
            for (let i = 0; i < 16; i++)
              expect(Math.abs(theirs[other * 16 + i] - ours[n * 16 + i]) / reach).toBeLessThan(1e-3);
          });
        }
      }),
      { numRuns: 12 },
    );
  });

  test('in parts comes in with the file that belongs to it, and not without', async () => {
    const { scene } = bake(fc.sample(castWithRigs, { numRuns: 1, seed: 4 })[0], choices);
    const { text, files } = await writeGltf(scene, 'scene');
    expect([...files.keys()]).toEqual(['scene.bin']);
    expect((await readGltf(strToU8(text), files)).scene.nodes).toHaveLength(scene.nodes.length);
    await expect(readGltf(strToU8(text))).rejects.toThrow('names the file “scene.bin”, which did not come with it');
  });
});

const { btoa } = globalThis as unknown as { btoa(bytes: string): string };

/** Numbers as they lie in a buffer, and as an address that holds them. */
function buffer(...arrays: readonly (Float32Array | Uint16Array | Uint8Array)[]): { uri: string; byteLength: number } {
  const bytes = arrays.flatMap((a) => {
    const own = [...new Uint8Array(a.buffer, a.byteOffset, a.byteLength)];
    while (own.length % 4 > 0) own.push(0);
    return own;
  });
  return {
    uri: `data:application/octet-stream;base64,${btoa(String.fromCharCode(...bytes))}`,
    byteLength: bytes.length,
  };
}

const read = (json: unknown) => readGltf(strToU8(JSON.stringify(json)));
const asset = { version: '2.0' };
const triangle = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0);

/** A triangle as the standard's first example has it. */
const plainTriangle = {
  asset,
  scene: 0,
  scenes: [{ nodes: [0] }],
  nodes: [{ mesh: 0, name: 'T' }],
  meshes: [{ primitives: [{ attributes: { POSITION: 1 }, indices: 0 }] }],
  buffers: [buffer(Uint16Array.of(0, 1, 2), triangle)],
  bufferViews: [
    { buffer: 0, byteOffset: 0, byteLength: 6 },
    { buffer: 0, byteOffset: 8, byteLength: 36 },
  ],
  accessors: [
    { bufferView: 0, componentType: 5123, count: 3, type: 'SCALAR' },
    { bufferView: 1, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] },
  ],
};

describe('a file made by hand', () => {
  test('with a triangle has its corners, and normals that it did not bring', async () => {
    const { scene, left } = await read(plainTriangle);
    const [{ mesh }] = scene.meshes[0].parts;
    expect([...mesh.positions]).toEqual([...triangle]);
    expect([...mesh.triangles]).toEqual([0, 1, 2]);
    expect([...mesh.normals]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
    expect(left).toEqual([]);
  });

  test('without indices, as a strip or a fan, has the same triangles', async () => {
    const square = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0);
    const of = (mode: number) => ({
      ...plainTriangle,
      meshes: [{ primitives: [{ attributes: { POSITION: 0 }, mode }] }],
      buffers: [buffer(square)],
      bufferViews: [{ buffer: 0, byteLength: 48 }],
      accessors: [{ bufferView: 0, componentType: 5126, count: 4, type: 'VEC3' }],
    });
    expect([...(await read(of(5))).scene.meshes[0].parts[0].mesh.triangles]).toEqual([0, 1, 2, 2, 1, 3]);
    expect([...(await read(of(6))).scene.meshes[0].parts[0].mesh.triangles]).toEqual([0, 1, 2, 0, 2, 3]);
    const lines = await read(of(1));
    expect(lines.scene.meshes).toEqual([]);
    expect(lines.left).toEqual(['points and lines']);
  });

  test('with numbers that lie interleaved, and some that are changed sparsely, has them as they are meant', async () => {
    // Place and normal of each vertex side by side.
    const both = Float32Array.of(0, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, 1, 0, 0, 0, 1);
    const { scene } = await read({
      ...plainTriangle,
      meshes: [{ primitives: [{ attributes: { POSITION: 0, NORMAL: 1 } }] }],
      buffers: [buffer(both, Uint8Array.of(2), Float32Array.of(5, 6, 7))],
      bufferViews: [
        { buffer: 0, byteLength: 72, byteStride: 24 },
        { buffer: 0, byteOffset: 72, byteLength: 1 },
        { buffer: 0, byteOffset: 76, byteLength: 12 },
      ],
      accessors: [
        {
          bufferView: 0,
          componentType: 5126,
          count: 3,
          type: 'VEC3',
          sparse: { count: 1, indices: { bufferView: 1, componentType: 5121 }, values: { bufferView: 2 } },
        },
        { bufferView: 0, byteOffset: 12, componentType: 5126, count: 3, type: 'VEC3' },
      ],
    });
    const [{ mesh }] = scene.meshes[0].parts;
    expect([...mesh.positions]).toEqual([0, 0, 0, 1, 0, 0, 5, 6, 7]);
    expect([...mesh.normals]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
  });

  test('moves by steps, straight and bent, each as it is meant', async () => {
    const times = Float32Array.of(0, 1, 2);
    const straight = Float32Array.of(0, 0, 0, 2, 0, 0, 0, 0, 0);
    // In tangent, value, out tangent of each key.
    const bent = Float32Array.from([0, 0, 0, 0, 0, 0, 4, 0, 0, 0, 0, 0, 2, 0, 0, 0, 0, 0, 0, 0, 0, 2, 0, 0, 0, 0, 0]);
    const motion = (interpolation: string, output: number) => ({
      name: interpolation,
      channels: [{ sampler: 0, target: { node: 0, path: 'translation' } }],
      samplers: [{ input: 0, output, interpolation }],
    });
    const { scene } = await read({
      asset,
      scenes: [{ nodes: [0] }],
      nodes: [{ name: 'A' }],
      animations: [motion('STEP', 1), motion('LINEAR', 1), motion('CUBICSPLINE', 2)],
      buffers: [buffer(times, straight, bent)],
      bufferViews: [
        { buffer: 0, byteLength: 12 },
        { buffer: 0, byteOffset: 12, byteLength: 36 },
        { buffer: 0, byteOffset: 48, byteLength: 108 },
      ],
      accessors: [
        { bufferView: 0, componentType: 5126, count: 3, type: 'SCALAR' },
        { bufferView: 1, componentType: 5126, count: 3, type: 'VEC3' },
        { bufferView: 2, componentType: 5126, count: 9, type: 'VEC3' },
      ],
    });
    const x = (motion: number, seconds: number) => valueAt(scene.motions[motion].tracks[0], seconds)[0];
    expect([x(0, 0.5), x(0, 1), x(0, 1.9)]).toEqual([0, 2, 2]);
    expect([x(1, 0.5), x(1, 1.5)]).toEqual([1, 1]);
    // Half way: half of 2, and an eighth of the tangent of 4.
    expect(x(2, 0.5)).toBeCloseTo(1.5);
    expect(x(2, 1.5)).toBeCloseTo(2);
  });

  test('with what is not known here is read without it, and that is told', async () => {
    const { scene, left } = await read({
      ...plainTriangle,
      extensionsUsed: ['ACME_dust'],
      cameras: [{ type: 'orthographic', orthographic: { xmag: 1, ymag: 1, znear: 0, zfar: 1 } }],
      nodes: [{ mesh: 0, name: 'T' }, { name: 'apart' }],
      scenes: [{ nodes: [0] }],
      materials: [{ emissiveFactor: [1, 0, 0] }],
      meshes: [{ primitives: [{ attributes: { POSITION: 1 }, indices: 0, material: 0 }] }],
    });
    expect(scene.nodes).toHaveLength(1);
    expect([...left].sort()).toEqual(['nodes that stand in no scene, or in another one', 'what glows']);
  });
});

const changed = (to: object) => strToU8(JSON.stringify({ ...plainTriangle, ...to }));
const glb = (json: string, more: number[] = []) => {
  const text = strToU8(json.padEnd(Math.ceil(json.length / 4) * 4));
  const out = new Uint8Array(20 + text.length + more.length);
  const data = new DataView(out.buffer);
  [0x46546c67, 2, out.length, text.length, 0x4e4f534a].forEach((v, i) => {
    data.setUint32(i * 4, v, true);
  });
  out.set(text, 20);
  out.set(more, 20 + text.length);
  return out;
};

test.each([
  ['nothing at all', new Uint8Array(0), 'is not JSON'],
  ['a picture', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10), 'is not JSON'],
  ['its first words only', glb('{}').subarray(0, 15), 'cut short'],
  ['less than it says', glb(JSON.stringify({ asset })).subarray(0, 30), 'cut short'],
  ['an older version', strToU8('{"asset":{"version":"1.0"}}'), 'only 2.0'],
  ['no version', strToU8('{"asset":{}}'), 'asset.version'],
  ['a list where a thing is', strToU8('[1,2]'), 'no glTF that can be read'],
  ['a node that is its own child', changed({ nodes: [{ mesh: 0, children: [0] }] }), 'hangs on itself'],
  ['nodes in a circle', changed({ nodes: [{ children: [1] }, { children: [0] }] }), 'hangs on itself'],
  ['a node with two parents', changed({ nodes: [{ children: [2] }, { children: [2] }, {}] }), 'hangs on two others'],
  [
    'nodes 600 deep',
    changed({ nodes: Array.from({ length: 600 }, (_, i) => ({ children: i < 599 ? [i + 1] : [] })) }),
    '500 deep',
  ],
  ['a node that is not there', changed({ scenes: [{ nodes: [7] }] }), 'scenes[0] names nodes[7]'],
  ['a mesh that is not there', changed({ nodes: [{ mesh: 4 }] }), 'nodes[0] names meshes[4]'],
  [
    'an accessor beyond its view',
    changed({ accessors: [plainTriangle.accessors[0], { ...plainTriangle.accessors[1], count: 9 }] }),
    'reaches beyond bufferViews[1]',
  ],
  [
    'a view beyond its buffer',
    changed({ bufferViews: [{ buffer: 0, byteLength: 9999 }, plainTriangle.bufferViews[1]] }),
    'bufferViews[0] reaches beyond its buffer',
  ],
  [
    'a buffer shorter than it says',
    changed({ buffers: [{ ...plainTriangle.buffers[0], byteLength: 5000 }] }),
    'is to have 5000 bytes',
  ],
  ['a million joints', changed({ skins: [{ joints: Array.from({ length: 100_000 }, () => 0) }] }), '2000 joints'],
  [
    'more numbers than can be',
    changed({
      accessors: Array.from({ length: 60 }, () => ({ componentType: 5126, count: 50_000_000, type: 'SCALAR' })),
    }),
    'more numbers',
  ],
  ['a file in another folder', changed({ buffers: [{ uri: '../../etc/passwd', byteLength: 4 }] }), 'lies elsewhere'],
  [
    'a file on another machine',
    changed({ buffers: [{ uri: 'https://example.org/a.bin', byteLength: 4 }] }),
    'lies elsewhere',
  ],
  ['a file by its whole path', changed({ buffers: [{ uri: '/etc/passwd', byteLength: 4 }] }), 'lies elsewhere'],
  ['data that is none', changed({ buffers: [{ uri: 'data:;base64,###', byteLength: 4 }] }), 'not in base 64'],
  [
    'an extension nobody knows',
    changed({ extensionsRequired: ['KHR_draco_mesh_compression'] }),
    'cannot be read without KHR_draco',
  ],
  ['itself a thousand deep', strToU8('['.repeat(1000) + ']'.repeat(1000)), '200 deep'],
])('a file with %s is refused with a sentence that says so', async (_, bytes, why) => {
  await expect(readGltf(bytes)).rejects.toThrow(Refused);
  await expect(readGltf(bytes)).rejects.toThrow(why);
});

test('numbers that are none are left out and told, and the rest comes in', async () => {
  const { scene, left } = await readGltf(
    changed({ buffers: [buffer(Uint16Array.of(0, 1, 2), Float32Array.of(0, 0, 0, Number.NaN, 0, 0, 0, 1, 0))] }),
  );
  expect(scene.nodes).toHaveLength(1);
  expect(left).toEqual(['meshes whose numbers make no sense']);
});

test('four hundred spoilt files are read in part or refused with a sentence, and nothing else happens', async () => {
  const { scene } = bake(fc.sample(castWithRigs, { numRuns: 3, seed: 9 })[2], choices);
  const good = await writeGlb(scene);
  const { text } = await writeGltf(scene, 'scene');
  const spoiltBytes = fc
    .tuple(
      fc.array(fc.tuple(fc.nat({ max: good.length - 1 }), fc.nat({ max: 255 })), { minLength: 1, maxLength: 6 }),
      fc.oneof(fc.constant(good.length), fc.nat({ max: good.length })),
    )
    .map(([changes, end]) => {
      const bytes = good.slice(0, end);
      for (const [at, byte] of changes) if (at < end) bytes[at] = byte;
      return bytes;
    });
  // Numbers of the text made others: counts, offsets, names of things by number.
  const numbers = [...text.matchAll(/-?\d+(\.\d+)?/g)];
  const spoiltText = fc
    .array(
      fc.tuple(
        fc.nat({ max: numbers.length - 1 }),
        fc.constantFrom('-1', '0', '1', '7', '99999', '4294967296', '1e308', 'null', '"x"', '[]'),
      ),
      { minLength: 1, maxLength: 4 },
    )
    .map((changes) => {
      let out = text;
      for (const [which, to] of [...changes].sort((a, b) => b[0] - a[0]))
        out = out.slice(0, numbers[which].index) + to + out.slice(numbers[which].index + numbers[which][0].length);
      return strToU8(out);
    });
  const beside = new Map([['scene.bin', (await writeGltf(scene, 'scene')).files.get('scene.bin')!]]);
  await fc.assert(
    fc.asyncProperty(fc.oneof(spoiltBytes, spoiltText), async (bytes) => {
      try {
        const { scene: read } = await readGltf(bytes, beside);
        expect(read.nodes.every(({ parent }, n) => parent < n)).toBe(true);
        for (const { tracks } of read.motions)
          for (const { times, values } of tracks) expect([...times, ...values].every(Number.isFinite)).toBe(true);
      } catch (error) {
        expect(error).toBeInstanceOf(Refused);
      }
    }),
    { numRuns: 400 },
  );
});
