import AxeBuilder from '@axe-core/playwright';
import { bringIn, document, findCommand, newShot, saved, setChannel } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Rigs that somebody builds: from forms to something that walks. */

interface BuiltRig {
  readonly name: string;
  readonly version: number;
  readonly changes: string;
  readonly joints: readonly { readonly id: string; readonly place: readonly [number, number, number] }[];
  readonly limbs: readonly { readonly id: string }[];
  readonly feet: readonly unknown[];
  readonly meshes: readonly { readonly id: string; readonly skin: { readonly kind: string } }[];
}

/** The half of a gull that faces +Z: what is in the middle, and what is on its left. */
const half: readonly (readonly [kind: string, form: Record<string, number>, place: Record<string, number>])[] = [
  ['capsule', { radius: 0.13, height: 0.62 }, { 'move y': 0.42, 'move z': -0.31, 'turn x': 90 }],
  ['capsule', { radius: 0.07, height: 0.32 }, { 'move y': 0.38, 'move z': 0.22, 'turn x': 28 }],
  ['ball', { radius: 0.095 }, { 'move y': 0.63, 'move z': 0.36 }],
  ['cone', { radius: 0.035, height: 0.16 }, { 'move y': 0.63, 'move z': 0.43, 'turn x': 90 }],
  ['box', { width: 0.75, height: 0.035, depth: 0.26, rounding: 0.015 }, { 'move x': 0.45, 'move y': 0.46 }],
  ['cylinder', { radius: 0.02, height: 0.34 }, { 'move x': 0.07, 'move z': 0.02 }],
  ['box', { width: 0.08, height: 0.022, depth: 0.15 }, { 'move x': 0.07, 'move z': 0.06 }],
  ['box', { width: 0.14, height: 0.03, depth: 0.24 }, { 'move y': 0.42, 'move z': -0.36 }],
];

const room = (page: Page) => page.getByRole('main');
const press = (page: Page, name: string) => room(page).getByRole('button', { name, exact: true }).click();

/** The eye of the view, as it stands after all was brought into view: where it looks at, and from how far. */
interface Eye {
  readonly box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly at: readonly [number, number, number];
  readonly far: number;
}
const STEEP = Math.tan((15 * Math.PI) / 180);

async function eyeOn(page: Page, min: readonly number[], max: readonly number[]): Promise<Eye> {
  const box = (await page.locator('canvas').boundingBox())!;
  const at = [0, 1, 2].map((c) => (min[c] + max[c]) / 2) as [number, number, number];
  const radius = Math.hypot(...[0, 1, 2].map((c) => (max[c] - min[c]) / 2));
  const narrow = Math.min(Math.atan(STEEP), Math.atan((STEEP * box.width) / box.height));
  return { box, at, far: (radius * 1.1) / Math.sin(narrow) };
}

/** Presses where a place of the rig is seen from a side. */
async function pressAt(page: Page, eye: Eye, from: 'front' | 'side' | 'top', place: readonly [number, number, number]) {
  await page.keyboard.press({ front: '1', side: '2', top: '3' }[from]);
  const [x, y, z] = [0, 1, 2].map((c) => place[c] - eye.at[c]);
  const [right, up, near] = { front: [x, y, z], side: [-z, y, x], top: [x, -z, y] }[from];
  const by = eye.box.height / 2 / (STEEP * (eye.far - near));
  await page.mouse.click(eye.box.x + eye.box.width / 2 + right * by, eye.box.y + eye.box.height / 2 - up * by);
}

const pickJoint = (page: Page, name: string) =>
  room(page).getByRole('region', { name: 'Joints' }).getByRole('button', { name, exact: true }).click();

test('a gull is built of half a dozen forms: made whole, given joints by pressing, weighed, dressed, tried and kept', async ({
  page,
}) => {
  test.slow();
  const shot = await newShot(page, 'Gull');
  for (const [kind, form, place] of half) {
    await bringIn(page, kind);
    for (const [name, value] of [...Object.entries(form), ...Object.entries(place)])
      await setChannel(page, name, value);
  }
  await saved(page, shot);
  await page.getByRole('treeitem', { name: 'Capsule', exact: true }).click();
  await page.keyboard.press('Control+a');
  await findCommand(page, 'A rig of them');
  await page.getByLabel('what it is called in the library').fill('Gull');
  await page.getByRole('button', { name: 'make it and build on' }).click();
  await expect(page.getByRole('heading', { name: 'Gull', level: 1 })).toBeVisible();
  // In the shot it stands where its forms stood.
  const kinds = async () => Object.values((await document(page, shot)).document.members).map((m) => m.kind);
  await expect.poll(async () => (await kinds()).filter((kind) => kind !== 'control')).toEqual(['rig']);

  await press(page, 'no joints');
  await expect(room(page).getByText('It has no joints yet')).toBeVisible();
  await press(page, 'whole of a half');
  const eye = await eyeOn(page, [-0.825, 0, -0.48], [0.825, 0.725, 0.59]);
  await page.keyboard.press('f');
  // A little more of a breast.
  await page.keyboard.press('s');
  await page.keyboard.press('1');
  const breast = [eye.box.x + eye.box.width / 2, eye.box.y + eye.box.height / 2 - 20] as const;
  await page.mouse.move(...breast);
  await page.mouse.down();
  await page.mouse.move(breast[0], breast[1] + 12);
  await page.mouse.move(breast[0], breast[1] + 24);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: pull the body' })).toBeVisible();
  await page.keyboard.press('j');
  // A press beside the body is refused, and nothing changes.
  await pressAt(page, eye, 'side', [0, 0.66, -0.3]);
  await expect(page.getByText('There is no body here')).toBeVisible();
  for (const [z, y] of [
    [-0.12, 0.4],
    [0.04, 0.4],
    [0.2, 0.42],
    [0.29, 0.53],
    [0.36, 0.63],
  ])
    await pressAt(page, eye, 'side', [0, y, z]);
  await pickJoint(page, 'joint 3');
  for (const x of [0.14, 0.42, 0.72]) await pressAt(page, eye, 'top', [x, 0.48, 0]);
  await pickJoint(page, 'joint');
  for (const y of [0.35, 0.18, 0.06]) await pressAt(page, eye, 'front', [0.07, y, 0.02]);
  await pressAt(page, eye, 'side', [0.07, 0.011, 0.1]);
  await expect(room(page).getByRole('region', { name: 'Joints' }).getByRole('listitem')).toHaveCount(19);

  await press(page, 'biped');
  await expect(room(page).getByRole('list', { name: 'What it is dressed with' }).getByRole('listitem')).toHaveCount(6);
  await press(page, 'compute weights');
  await expect(room(page).getByRole('progressbar')).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Undo: weights' })).toBeVisible();
  await press(page, 'crouch');
  await expect(room(page).getByText('It walks')).toBeVisible();
  await expect(room(page).getByText('Nothing to remark.')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => v.id)).toEqual([]);

  await page.getByRole('button', { name: 'keep as a new version…' }).click();
  await page.getByLabel('what is new in it').fill('Joints, weights, wings and legs.');
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  await expect(page.getByText('Gull is kept as version 2.')).toBeVisible();
  const [, , id] = new URL(page.url()).pathname.split('/');
  const rig = (await (await page.request.get(`/api/rigs/${id}/versions/2`)).json()) as BuiltRig;
  expect(rig.changes).toBe('Joints, weights, wings and legs.');
  expect([rig.limbs.length, rig.feet.length]).toEqual([4, 2]);
  expect(rig.meshes.every((mesh) => mesh.skin.kind === 'smooth')).toBe(true);
  const place = (name: string) => rig.joints.find((j) => j.id === name)!.place;
  // Where it was pressed, in the middle of what was pressed.
  expect(place('hips').map((v) => Math.round(v * 50) / 50)).toEqual([0, 0.4, -0.12]);
  expect(place('handL')[1]).toBeCloseTo(0.477, 2);
  expect(place('handR')).toEqual([-place('handL')[0], place('handL')[1], place('handL')[2]]);
});

test('a body is shaped and painted with soft hands, a shape gets its dial; a draft outlives a reload, and is let go', async ({
  page,
}) => {
  await page.goto('/rigs/gull/1/build');
  await expect(page.getByRole('heading', { name: 'Gull', level: 1 })).toBeVisible();
  const box = (await page.locator('canvas').boundingBox())!;
  const middle = [box.x + box.width / 2, box.y + box.height / 2] as const;
  const draw = async (dx: number, dy: number) => {
    await page.mouse.move(...middle);
    await page.mouse.down();
    await page.mouse.move(middle[0] + dx / 2, middle[1] + dy / 2);
    await page.mouse.move(middle[0] + dx, middle[1] + dy);
    await page.mouse.up();
  };
  const undo = (did: string) => page.getByRole('button', { name: `Undo: ${did}` });
  // From the front the belly is in the middle of the view.
  await page.keyboard.press('1');
  await page.keyboard.press('s');
  await draw(0, 40);
  await expect(undo('pull the body')).toBeVisible();
  await press(page, 'size');
  await draw(30, -10);
  await expect(undo('size the body')).toBeVisible();

  await press(page, 'new shape…');
  await page.getByLabel('what its dial is called').fill('puffed');
  await page.getByRole('button', { name: 'shape it' }).click();
  const shapes = room(page).getByRole('list', { name: 'Shapes' });
  await expect(shapes.getByRole('button', { name: 'puffed', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await draw(40, 0);
  await pickJoint(page, 'chest trunk');
  await page.keyboard.press('w');
  await draw(20, 10);
  await expect(undo('paint weights')).toBeVisible();

  // Nothing of it is kept, and nothing is lost.
  await expect(page.getByText('not kept yet')).toBeVisible();
  await page.waitForFunction(
    () =>
      new Promise((there) => {
        const asked = indexedDB.open('varrup-rigging');
        asked.onsuccess = () => {
          const all = asked.result.transaction('drafts').objectStore('drafts').getAll();
          all.onsuccess = () => {
            const [draft] = all.result as { build: { meshes: { targets: { vertices: number[] }[] }[] } }[];
            asked.result.close();
            there(draft?.build.meshes.some((m) => m.targets.some((t) => t.vertices.length > 0)) ?? false);
          };
        };
      }),
  );
  await page.reload();
  await expect(page.getByText('gone on from your draft')).toBeVisible();
  await expect(shapes.getByRole('button', { name: 'puffed', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'start again' }).click();
  await expect(shapes).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'keep as a new version…' })).toBeDisabled();
});
