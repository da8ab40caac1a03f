import { z } from 'zod';
import { Refused } from '../../schema/refused.ts';

/**
 * What is looked at before a glTF file is read: that everything it names is there, that nothing points outside, goes round in a circle
 * or is more than can be carried. After that its reader can rely on it.
 */

export const gltfLimits = {
  /** Bytes of a file with all its parts. */
  bytes: 500_000_000,
  nodes: 50_000,
  depth: 500,
  meshes: 20_000,
  joints: 2_000,
  accessors: 200_000,
  /** Numbers of one accessor, and of all together. */
  numbers: 60_000_000,
  allNumbers: 150_000_000,
  animations: 2_000,
  channels: 100_000,
  pictures: 500,
} as const;

/** Extensions that are understood where a file cannot be read without them. */
const UNDERSTOOD = new Set([
  'KHR_lights_punctual',
  'KHR_materials_unlit',
  'KHR_texture_transform',
  'KHR_mesh_quantization',
]);

const count = (most: number) => z.number().int().min(0).max(most);
const index = count(1_000_000);
const name = z.string().max(10_000).optional();
const list = <Item extends z.ZodType>(item: Item, most: number, what: string) =>
  z.array(item).max(most, `more than ${most} ${what}`).default([]);
const numbers = (length: number) => z.array(z.number()).length(length);

const Attributes = z.record(z.string().max(200), index);

const Gltf = z.looseObject({
  asset: z.looseObject({ version: z.string().max(20) }),
  extensionsRequired: z.array(z.string().max(200)).max(200).default([]),
  scene: index.optional(),
  scenes: list(z.looseObject({ nodes: z.array(index).default([]) }), 1_000, 'scenes'),
  nodes: list(
    z.looseObject({
      name,
      children: z.array(index).default([]),
      mesh: index.optional(),
      skin: index.optional(),
      camera: index.optional(),
      matrix: numbers(16).optional(),
      translation: numbers(3).optional(),
      rotation: numbers(4).optional(),
      scale: numbers(3).optional(),
      weights: z.array(z.number()).max(10_000).optional(),
    }),
    gltfLimits.nodes,
    'nodes',
  ),
  meshes: list(
    z.looseObject({
      name,
      primitives: z
        .array(
          z.looseObject({
            attributes: Attributes,
            indices: index.optional(),
            material: index.optional(),
            mode: count(6).optional(),
            targets: z.array(Attributes).max(1_000).default([]),
          }),
        )
        .max(10_000),
    }),
    gltfLimits.meshes,
    'meshes',
  ),
  skins: list(
    z.looseObject({
      name,
      joints: z.array(index).min(1).max(gltfLimits.joints, `more than ${gltfLimits.joints} joints in one skin`),
      inverseBindMatrices: index.optional(),
      skeleton: index.optional(),
    }),
    10_000,
    'skins',
  ),
  accessors: list(
    z.looseObject({
      bufferView: index.optional(),
      byteOffset: count(Number.MAX_SAFE_INTEGER).default(0),
      componentType: z.union([5120, 5121, 5122, 5123, 5125, 5126].map((n) => z.literal(n))),
      count: z.number().int().min(1).max(gltfLimits.numbers),
      type: z.enum(['SCALAR', 'VEC2', 'VEC3', 'VEC4', 'MAT2', 'MAT3', 'MAT4']),
      sparse: z
        .looseObject({
          count: z.number().int().min(1).max(gltfLimits.numbers),
          indices: z.looseObject({
            bufferView: index,
            byteOffset: count(Number.MAX_SAFE_INTEGER).default(0),
            componentType: z.union([5121, 5123, 5125].map((n) => z.literal(n))),
          }),
          values: z.looseObject({ bufferView: index, byteOffset: count(Number.MAX_SAFE_INTEGER).default(0) }),
        })
        .optional(),
    }),
    gltfLimits.accessors,
    'accessors',
  ),
  bufferViews: list(
    z.looseObject({
      buffer: index,
      byteOffset: count(Number.MAX_SAFE_INTEGER).default(0),
      byteLength: z.number().int().min(1),
      byteStride: z.number().int().min(4).max(252).optional(),
    }),
    gltfLimits.accessors,
    'views of buffers',
  ),
  buffers: list(z.looseObject({ uri: z.string().optional(), byteLength: z.number().int().min(1) }), 1_000, 'buffers'),
  materials: list(z.looseObject({ name }), 20_000, 'materials'),
  textures: list(z.looseObject({ source: index.optional() }), 20_000, 'textures'),
  images: list(
    z.looseObject({
      uri: z.string().optional(),
      bufferView: index.optional(),
      mimeType: z.string().max(100).optional(),
    }),
    gltfLimits.pictures,
    'pictures',
  ),
  cameras: list(z.looseObject({ type: z.string().max(50) }), 10_000, 'cameras'),
  animations: list(
    z.looseObject({
      name,
      channels: z
        .array(
          z.looseObject({
            sampler: index,
            target: z.looseObject({ node: index.optional(), path: z.string().max(50) }),
          }),
        )
        .max(gltfLimits.channels),
      samplers: z
        .array(z.looseObject({ input: index, output: index, interpolation: z.string().max(30).optional() }))
        .max(gltfLimits.channels),
    }),
    gltfLimits.animations,
    'animations',
  ),
});
export type GltfJson = z.infer<typeof Gltf>;

/** How many numbers a thing of each type is, and how many bytes a number. */
const sizes = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 } as const;
const widths: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };

/**
 * Looks through what a file says of itself.
 * @param lengths how many bytes of each buffer are there
 * @throws Refused with what is wrong and where
 */
export function checkedGltf(json: unknown, lengths: (buffers: GltfJson['buffers']) => readonly number[]): GltfJson {
  const parsed = Gltf.safeParse(json);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new Refused(`The file is no glTF that can be read: ${placeOf(issue.path)} ${issue.message}.`);
  }
  const file = parsed.data;
  if (!/^2\./.test(file.asset.version))
    throw new Refused(`The file is glTF ${file.asset.version}; only 2.0 can be read.`);
  const needed = file.extensionsRequired.filter((extension) => !UNDERSTOOD.has(extension));
  if (needed.length > 0)
    throw new Refused(`The file cannot be read without ${needed.join(', ')}, which are not known here.`);
  checkReferences(file);
  checkHierarchy(file);
  checkNumbers(file, lengths(file.buffers));
  return file;
}

const placeOf = (path: readonly PropertyKey[]): string =>
  path
    .map((part) => (typeof part === 'number' ? `[${part}]` : `.${String(part)}`))
    .join('')
    .replace(/^\./, '') || 'it';

/** That everything that is named by its number is there. */
function checkReferences(file: GltfJson): void {
  const there = (
    kind: keyof GltfJson &
      ('nodes' | 'meshes' | 'skins' | 'accessors' | 'bufferViews' | 'buffers' | 'materials' | 'cameras' | 'images'),
    at: number | undefined,
    where: string,
  ) => {
    if (at !== undefined && at >= file[kind].length)
      throw new Refused(
        `${where} names ${kind}[${at}], and there ${file[kind].length === 1 ? 'is' : 'are'} only ${file[kind].length}.`,
      );
  };
  for (const [s, { nodes }] of file.scenes.entries()) for (const node of nodes) there('nodes', node, `scenes[${s}]`);
  for (const [n, { children, mesh, skin, camera }] of file.nodes.entries()) {
    for (const child of children) there('nodes', child, `nodes[${n}]`);
    there('meshes', mesh, `nodes[${n}]`);
    there('skins', skin, `nodes[${n}]`);
    there('cameras', camera, `nodes[${n}]`);
  }
  for (const [m, { primitives }] of file.meshes.entries()) {
    for (const { attributes, indices, material, targets } of primitives) {
      for (const attribute of [attributes, ...targets])
        for (const at of Object.values(attribute)) there('accessors', at, `meshes[${m}]`);
      there('accessors', indices, `meshes[${m}]`);
      there('materials', material, `meshes[${m}]`);
    }
  }
  for (const [s, { joints, inverseBindMatrices }] of file.skins.entries()) {
    for (const joint of joints) there('nodes', joint, `skins[${s}]`);
    there('accessors', inverseBindMatrices, `skins[${s}]`);
  }
  for (const [a, { channels, samplers }] of file.animations.entries()) {
    for (const { input, output } of samplers) {
      there('accessors', input, `animations[${a}]`);
      there('accessors', output, `animations[${a}]`);
    }
    for (const { sampler, target } of channels) {
      there('nodes', target.node, `animations[${a}]`);
      if (sampler >= samplers.length) throw new Refused(`animations[${a}] names a sampler that is not there.`);
    }
  }
  for (const [v, { buffer }] of file.bufferViews.entries()) there('buffers', buffer, `bufferViews[${v}]`);
  for (const [i, { bufferView }] of file.images.entries()) there('bufferViews', bufferView, `images[${i}]`);
  for (const [t, { source }] of file.textures.entries()) there('images', source, `textures[${t}]`);
}

/** That nodes hang on one another as trees, and not too deep. */
function checkHierarchy({ nodes }: GltfJson): void {
  const parent = new Int32Array(nodes.length).fill(-1);
  nodes.forEach(({ children }, n) => {
    for (const child of children) {
      if (parent[child] >= 0)
        throw new Refused(`nodes[${child}] hangs on two others, nodes[${parent[child]}] and nodes[${n}].`);
      parent[child] = n;
    }
  });
  nodes.forEach((_, n) => {
    let depth = 0;
    for (let up = n; up >= 0; up = parent[up]) {
      if (depth++ > gltfLimits.depth)
        throw new Refused(`nodes[${n}] hangs on itself, or more than ${gltfLimits.depth} deep.`);
    }
  });
}

/** That every accessor lies within its buffer, and that they are not too many numbers. */
function checkNumbers({ accessors, bufferViews }: GltfJson, lengths: readonly number[]): void {
  bufferViews.forEach(({ buffer, byteOffset, byteLength }, v) => {
    if (byteOffset + byteLength > (lengths[buffer] ?? 0))
      throw new Refused(`bufferViews[${v}] reaches beyond its buffer, which has ${lengths[buffer] ?? 0} bytes.`);
  });
  let all = 0;
  accessors.forEach(({ bufferView, byteOffset, componentType, count: items, type, sparse }, a) => {
    all += items * sizes[type];
    if (items * sizes[type] > gltfLimits.numbers || all > gltfLimits.allNumbers)
      throw new Refused(`accessors[${a}]: there are more numbers in the file than can be carried.`);
    const item = sizes[type] * widths[componentType];
    within(`accessors[${a}]`, bufferView, byteOffset, items, item);
    if (!sparse) return;
    if (sparse.count > items) throw new Refused(`accessors[${a}] changes more of its items than it has.`);
    within(
      `accessors[${a}]`,
      sparse.indices.bufferView,
      sparse.indices.byteOffset,
      sparse.count,
      widths[sparse.indices.componentType],
    );
    within(`accessors[${a}]`, sparse.values.bufferView, sparse.values.byteOffset, sparse.count, item);
  });

  function within(where: string, view: number | undefined, offset: number, items: number, item: number): void {
    if (view === undefined) return;
    const found = bufferViews[view];
    if (!found) throw new Refused(`${where} names bufferViews[${view}], which is not there.`);
    const stride = found.byteStride ?? item;
    if (offset + (items - 1) * stride + item > found.byteLength)
      throw new Refused(`${where} reaches beyond bufferViews[${view}], which has ${found.byteLength} bytes.`);
  }
}
