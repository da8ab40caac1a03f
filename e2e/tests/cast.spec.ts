import { createHash } from 'node:crypto';
import AxeBuilder from '@axe-core/playwright';
import { bringIn, document, newShot, pngOf, saved, setChannel } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** The desk where what stands in a shot is built. */

interface Drawn {
  readonly name: string;
  readonly kind: string;
  readonly parent: string | null;
  readonly values: Record<string, number>;
  readonly material?: { readonly name: string; readonly cover: Record<string, unknown> | null };
}
const drawn = async (page: Page, id: string): Promise<Drawn[]> =>
  Object.values((await saved(page, id)).members) as unknown as Drawn[];

const desk = (page: Page, word: string) =>
  page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: word }).click();
const beside = (page: Page) => page.getByRole('region', { name: 'Beside the stage' });
const show = (page: Page, panel: string) => page.getByRole('tab', { name: panel }).click();

test('a floor, a wall and a skirting board get wood and paper; back to paint leaves nothing; all of it is there after a reload', async ({
  page,
}) => {
  const id = await newShot(page, 'Cabin');
  await desk(page, 'Cast');
  await show(page, 'material');
  for (const [kind, stock] of [
    ['plane', 'deck planks'],
    ['box', 'cabin paper'],
    ['box', 'mess-room parquet'],
  ]) {
    await bringIn(page, kind);
    await beside(page).getByRole('button', { name: stock }).click();
    await expect(beside(page).getByRole('button', { name: stock })).toHaveAttribute('aria-pressed', 'true');
  }
  expect((await drawn(page, id)).map((m) => m.material?.name)).toEqual([
    'deck planks',
    'cabin paper',
    'mess-room parquet',
  ]);
  const { violations } = await new AxeBuilder({ page }).include('[data-place=beside]').analyze();
  expect(violations.map((v) => v.id)).toEqual([]);

  // By hand: another pattern, another size; what is no size is refused, and nothing changes.
  await page.getByLabel('on it').selectOption('checks');
  const repeat = page.getByLabel('one repeat');
  await repeat.fill('0.5');
  await repeat.press('Enter');
  await expect
    .poll(async () => (await drawn(page, id))[2].material?.cover)
    .toMatchObject({ pattern: 'checks', scale: 0.5 });
  for (const wrong of ['0', '-1', '1000', 'wide', '']) {
    await repeat.fill(wrong);
    await repeat.press('Enter');
    await repeat.press('Escape');
  }
  expect((await drawn(page, id))[2].material?.cover).toMatchObject({ scale: 0.5 });
  await beside(page).getByRole('button', { name: 'back to paint' }).click();
  await expect.poll(async () => (await drawn(page, id))[2].material).toBeUndefined();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await drawn(page, id))[2].material?.name).toBe('mess-room parquet');
  await page.reload();
  await page.getByRole('treeitem', { name: 'Plane' }).click();
  await show(page, 'material');
  await expect(beside(page).getByRole('button', { name: 'deck planks' })).toHaveAttribute('aria-pressed', 'true');
});

test('a surface is keyed as anything is', async ({ page }) => {
  const id = await newShot(page, 'Glowing');
  await desk(page, 'Cast');
  await show(page, 'material');
  await bringIn(page, 'ball');
  await beside(page).getByRole('button', { name: 'lantern glow' }).click();
  const glow = beside(page).getByRole('textbox', { name: /^glow/ });
  await expect(glow).toHaveValue(/^2\.5/);
  await glow.fill('4');
  await glow.press('Enter');
  await beside(page)
    .getByRole('button', { name: /^glow is/ })
    .click();
  await expect
    .poll(async () =>
      Object.entries((await saved(page, id)).curves).map(([path, c]) => [
        path.split('.').slice(1).join('.'),
        c.keys[0].value,
      ]),
    )
    .toEqual([['surface.glow', 4]]);
});

test('a picture is laid on a form; one that is too large is refused with a sentence, and nothing changes', async ({
  page,
}) => {
  const id = await newShot(page, 'Papered');
  await desk(page, 'Cast');
  await show(page, 'material');
  await bringIn(page, 'box');
  const choose = async (buffer: Buffer) => {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByLabel('on it').selectOption('picture'),
    ]);
    await chooser.setFiles({ name: 'chart.png', mimeType: 'image/png', buffer });
  };
  await choose(await pngOf(page, 5000, 20, '#224466'));
  await expect(page.getByText('up to 4096 each way')).toBeVisible();
  expect((await drawn(page, id))[0].material).toBeUndefined();
  const buffer = await pngOf(page, 40, 20, '#224466');
  await choose(buffer);
  const media = createHash('sha256').update(buffer).digest('hex');
  await expect
    .poll(async () => (await drawn(page, id))[0].material?.cover)
    .toEqual({ is: 'picture', media, scale: 1, aspect: 0.5 });
  const width = page.getByLabel('width of the picture');
  await width.fill('2');
  await width.press('Enter');
  await expect.poll(async () => (await drawn(page, id))[0].material?.cover).toMatchObject({ scale: 2 });
});

test('dusk comes with one press, its hour is a channel, and paper is back with another', async ({ page }) => {
  const id = await newShot(page, 'Evening');
  await desk(page, 'Cast');
  await show(page, 'light');
  const sky = page.getByRole('region', { name: 'Sky' });
  await sky.getByRole('button', { name: 'dusk' }).click();
  await expect.poll(async () => (await drawn(page, id)).map((m) => m.kind)).toEqual(['sky']);
  const hour = sky.getByRole('textbox', { name: /^hour/ });
  await hour.fill('30');
  await hour.press('Enter');
  await hour.press('Escape');
  await hour.fill('6.5');
  await hour.press('Enter');
  await sky.getByRole('button', { name: /^hour is/ }).click();
  await expect.poll(async () => Object.keys((await saved(page, id)).curves).length).toBe(1);
  await sky.getByRole('button', { name: 'night' }).click();
  await expect.poll(async () => (await drawn(page, id))[0].values.hour).toBe(22.5);
  expect((await saved(page, id)).curves).toEqual({});
  await page.getByRole('button', { name: 'bring in a lamp' }).click();
  await expect.poll(async () => (await drawn(page, id)).map((m) => m.kind)).toEqual(['sky', 'light']);
  const { violations } = await new AxeBuilder({ page }).include('[data-place=beside]').analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
  await sky.getByRole('button', { name: 'paper' }).click();
  await expect.poll(async () => (await drawn(page, id)).map((m) => m.kind)).toEqual(['light']);
});

test('a jug is broken into fifty pieces, which stand in it, and is whole again with one step', async ({ page }) => {
  const id = await newShot(page, 'Broken');
  await desk(page, 'Cast');
  await bringIn(page, 'tube');
  await show(page, 'material');
  await beside(page).getByRole('button', { name: 'galley tile' }).click();
  await page.keyboard.press('/');
  await page.getByRole('combobox').fill('break into pieces');
  await page.keyboard.press('Enter');
  const card = page.getByRole('dialog', { name: 'Break into pieces' });
  const many = card.getByLabel('how many');
  await many.fill('1000');
  await many.press('Enter');
  await many.press('Escape');
  await many.fill('50');
  await many.press('Enter');
  await card.getByLabel('finer at').selectOption('its top');
  const { violations } = await new AxeBuilder({ page }).include('[role=dialog]').analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
  await card.getByRole('button', { name: 'break it' }).click();
  await expect(card).toBeHidden();
  const members = await drawn(page, id);
  expect(members.filter((m) => m.kind === 'group').map((m) => m.name)).toEqual(['Tube']);
  const pieces = members.filter((m) => m.kind === 'piece');
  expect(pieces).toHaveLength(50);
  expect(new Set(pieces.map((p) => p.material?.name))).toEqual(new Set(['galley tile']));
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await drawn(page, id)).map((m) => m.kind)).toEqual(['tube']);
  expect((await document(page, id)).document.curves).toEqual({});
});

test('copies stand in a ring and are strewn, and where there is no room for all that is told', async ({ page }) => {
  const id = await newShot(page, 'Bollards');
  await desk(page, 'Cast');
  await bringIn(page, 'capsule');
  const copies = async () => {
    await page.keyboard.press('Control+Shift+d');
    return page.getByRole('dialog', { name: /^Copies/ });
  };
  let card = await copies();
  await card.getByRole('button', { name: 'in a ring' }).click();
  await card.getByRole('button', { name: 'set them out' }).click();
  await expect.poll(async () => (await drawn(page, id)).length).toBe(8);
  await page.keyboard.press('Control+z');
  card = await copies();
  await card.getByRole('button', { name: 'strewn' }).click();
  const apart = card.getByLabel('apart at least');
  await apart.fill('3');
  await apart.press('Enter');
  await expect(card.getByRole('status')).toContainText('there is no room for more');
  await card.getByRole('button', { name: 'set them out' }).click();
  await expect.poll(async () => (await drawn(page, id)).length).toBeLessThan(12);
  const places = (await drawn(page, id)).map((m) => [m.values['move.x'] ?? 0, m.values['move.z'] ?? 0]);
  for (const [i, a] of places.entries())
    for (const b of places.slice(i + 1)) expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeGreaterThanOrEqual(3);
  await page.keyboard.press('Control+z');
  await show(page, 'channels');
  await setChannel(page, 'move x', 1.5);
  card = await copies();
  await card.getByRole('button', { name: 'mirrored' }).click();
  await card.getByRole('button', { name: 'set them out' }).click();
  await expect.poll(async () => (await drawn(page, id)).map((m) => m.values['move.x'])).toEqual([1.5, -1.5]);
});
