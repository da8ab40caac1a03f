import { bringIn, channel, document, findCommand, goTo, newShot, saved, setChannel, tabTo } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Cameras: lenses, cuts, moves, and what they show. */

interface WithCuts {
  readonly cuts: Record<string, { readonly frame: number; readonly camera: string }>;
}
const cuts = async (page: Page, id: string) =>
  Object.values(((await saved(page, id)) as unknown as WithCuts).cuts)
    .map((c) => c.frame)
    .sort((a, b) => a - b);

const row = (page: Page) =>
  page.getByRole('region', { name: 'Cameras' }).filter({ has: page.getByLabel('Cut here to') });

test('with two cameras a row over the sheet says which one sees which frames: cut, moved by keys, taken away, undone', async ({
  page,
}) => {
  const id = await newShot(page, 'Cuts');
  await bringIn(page, 'camera');
  await expect(row(page)).toHaveCount(0);
  await bringIn(page, 'camera');
  await expect(row(page).getByRole('button')).toHaveCount(1);
  await goTo(page, 25);
  await row(page).getByLabel('Cut here to').selectOption('Camera 2');
  await expect.poll(() => cuts(page, id)).toEqual([25]);
  const run = row(page).getByRole('button', { name: 'Camera 2 from frame 25 on' });
  await row(page).getByLabel('Cut here to').focus();
  await tabTo(page, run);
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => cuts(page, id)).toEqual([26]);
  await goTo(page, 49);
  // The next camera after the one that is seen there: round to the first.
  await page.keyboard.press('Alt+f');
  await expect(row(page).getByRole('button', { name: 'Camera from frame 49 on' })).toBeVisible();
  await row(page).getByLabel('Cut here to').focus();
  await tabTo(page, row(page).getByRole('button', { name: 'Camera 2 from frame 26 on' }));
  await page.keyboard.press('Delete');
  await expect.poll(() => cuts(page, id)).toEqual([49]);
  await page.keyboard.press('Control+z');
  await expect.poll(() => cuts(page, id)).toEqual([26, 49]);
  await page.reload();
  await expect(row(page).getByRole('button')).toHaveCount(3);
});

test('a lens is told in millimetres, focus and aperture are channels, and what is no lens is refused', async ({
  page,
}) => {
  const id = await newShot(page, 'Lens');
  await bringIn(page, 'ball');
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Cast' }).click();
  await page.getByRole('tab', { name: 'light' }).click();
  const cameras = page.getByRole('region', { name: 'Cameras' });
  await cameras.getByRole('button', { name: 'bring in a camera' }).click();
  const lens = cameras.getByRole('textbox', { name: /^lens of/ });
  await lens.fill('50');
  await lens.press('Enter');
  const camera = async () =>
    Object.values((await document(page, id)).document.members).find((m) => m.kind === 'camera') as unknown as
      | { values: Record<string, number>; shape: { follow: string | null } }
      | undefined;
  await expect.poll(async () => (await camera())?.values.view).toBeCloseTo(2 * Math.atan(12 / 50), 9);
  for (const wrong of ['0', '-20', '5000', 'wide', '']) {
    await lens.fill(wrong);
    await lens.press('Enter');
    await lens.press('Escape');
  }
  expect((await camera())?.values.view).toBeCloseTo(2 * Math.atan(12 / 50), 9);
  await cameras.getByLabel('sharp').selectOption('Ball, wherever it goes');
  await expect.poll(async () => (await camera())?.shape.follow).not.toBeNull();
});

test('a camera is moved by a kit: round the ball by a quarter, kept as plain keys', async ({ page }) => {
  const id = await newShot(page, 'Orbit');
  await bringIn(page, 'ball');
  await bringIn(page, 'camera');
  await findCommand(page, 'Orbit');
  const card = page.getByRole('region', { name: /^Orbit for/ });
  await expect(card.getByLabel('round whom')).toHaveValue(/.+/);
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => Object.keys((await document(page, id)).document.curves).length)
    .toBeGreaterThanOrEqual(5);
  const { curves, members } = await saved(page, id);
  const camera = Object.values(members).find((m) => m.kind === 'camera')!;
  const keys = curves[`${camera.id}.move.x`].keys;
  expect(keys[0].value).toBeCloseTo(0, 6);
  expect(keys[keys.length - 1].value).toBeCloseTo(6, 6);
});

test('pivots are put on places and leave the thing; joints between two are where they meet', async ({ page }) => {
  const id = await newShot(page, 'Pivots');
  await bringIn(page, 'box');
  await setChannel(page, 'turn z', 30);
  await findCommand(page, 'Pivot to the foot of its right edge');
  const box = async () => Object.values((await saved(page, id)).members)[0].values;
  await expect.poll(async () => (await box())['pivot.x']).toBeCloseTo(0.25, 9);
  // It stands where it stood: what the new pivot turns it by is in its move.
  const { 'move.x': x, 'move.y': y } = await box();
  expect(x).toBeCloseTo(0.25 * Math.cos(Math.PI / 6) - 0.25, 9);
  expect(y).toBeCloseTo(0.25 * Math.sin(Math.PI / 6), 9);
  await page.keyboard.press('k');
  await findCommand(page, 'Pivot to its middle');
  await expect(page.getByText('with another pivot it would move')).toBeVisible();
  expect((await box())['pivot.x']).toBeCloseTo(0.25, 9);
  await expect(channel(page, 'turn z')).toHaveValue(/^30/);
});
