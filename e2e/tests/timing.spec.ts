import { bounce, dragMouse, frameX, saved, sheetPlace, timing } from '../desk.ts';
import { expect, test } from '../test.ts';

test('keys are dragged, copied, picked by box and deleted in the sheet, each one step', async ({ page }) => {
  const { id, path } = await bounce(page, 'Sheet');
  const frames = async () => (await saved(page, id)).curves[path].keys.map((k) => k.frame);
  expect(await frames()).toEqual([1, 13, 25]);

  await dragMouse(page, await sheetPlace(page, 1, 13), await sheetPlace(page, 1, 17));
  expect(await frames()).toEqual([1, 17, 25]);
  await page.keyboard.press('Control+z');
  expect(await frames()).toEqual([1, 13, 25]);

  await page.keyboard.down('Alt');
  await dragMouse(page, await sheetPlace(page, 1, 25), await sheetPlace(page, 1, 37));
  await page.keyboard.up('Alt');
  expect(await frames()).toEqual([1, 13, 25, 37]);

  // A drag onto another key stops before it, and says so; R lets it replace the key instead.
  const [from, to] = [await sheetPlace(page, 1, 37), await sheetPlace(page, 1, 25)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await expect(page.getByText('stops at the next key')).toBeVisible();
  await page.keyboard.press('r');
  await expect(page.getByText('replaces a key')).toBeVisible();
  await page.mouse.up();
  expect(await frames()).toEqual([1, 13, 25]);

  const corner = await sheetPlace(page, 1, 9);
  const other = await sheetPlace(page, 1, 29);
  await dragMouse(page, { x: corner.x, y: corner.y - 9 }, { x: other.x, y: other.y + 9 });
  await page.keyboard.press('Delete');
  expect(await frames()).toEqual([1]);
});

test('keys are picked, moved and deleted with the keyboard alone', async ({ page }) => {
  const { id, path } = await bounce(page, 'By keyboard');
  const frames = async () => (await saved(page, id)).curves[path].keys.map((k) => k.frame);
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('e');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Alt+ArrowRight');
  expect(await frames()).toEqual([1, 16, 25]);
  await page.keyboard.press('Shift+E');
  await page.keyboard.press('Alt+ArrowLeft');
  expect(await frames()).toEqual([0, 15, 24]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('e');
  await page.keyboard.press('Delete');
  expect((await frames()).length).toBe(2);
});

test('a landing is made sharp: handles broken, dragged, and given a kind', async ({ page }) => {
  const { id, path } = await bounce(page, 'Sharp');
  const landing = async () => (await saved(page, id)).curves[path].keys[1];
  expect((await landing()).in.kind).toBe('smooth');
  await page.keyboard.press('Shift+C');
  await page.getByRole('button', { name: 'Pick move y' }).click();
  await page.getByRole('button', { name: 'frame all' }).click();
  // The curves now show frames 1 to 25 with a margin of two.
  const box = (await timing(page).boundingBox())!;
  const x = (frame: number) => box.x + ((frame + 1) / 28) * box.width;
  const value = (v: number) => {
    const margin = 1.8 * 0.12;
    const share = (v - (0.2 - margin)) / (1.8 + 2 * margin);
    return box.y + (box.height - 8) - share * (box.height - 8 - 34);
  };
  await page.mouse.click(x(13), value(0.2));
  await expect(page.getByLabel('Frame of the picked key')).toHaveValue('13');
  await page.getByRole('button', { name: 'break', exact: true }).click();
  expect((await landing()).joined).toBe(false);
  // The incoming handle, level at a third of the way, is pulled up: the ball arrives fast.
  await dragMouse(page, { x: x(9), y: value(0.2) }, { x: x(10), y: value(1.1) });
  let key = await landing();
  expect(key.in.kind).toBe('free');
  expect(key.out.kind).toBe('smooth');
  await page.getByRole('button', { name: 'linear', exact: true }).click();
  key = await landing();
  expect([key.in.kind, key.out.kind, key.joined]).toEqual(['linear', 'linear', false]);
  await page.getByRole('group', { name: 'Which handles a shape is for' }).getByRole('button', { name: 'out' }).click();
  await page.getByRole('button', { name: 'flat', exact: true }).click();
  key = await landing();
  expect([key.in.kind, key.out.kind]).toEqual(['linear', 'flat']);
  await page.getByLabel('Value of the picked key').fill('0.25');
  await page.getByLabel('Value of the picked key').press('Enter');
  expect((await landing()).value).toBe(0.25);
  await page.getByLabel('after the keys').selectOption('cycle');
  expect((await saved(page, id)).curves[path].after).toBe('cycle');
});

test('a key is dragged in the curves, in time and in value', async ({ page }) => {
  const { id, path } = await bounce(page, 'Curve drag');
  await page.keyboard.press('Shift+C');
  await page.getByRole('button', { name: 'Pick move y' }).click();
  const box = (await timing(page).boundingBox())!;
  const margin = 1.8 * 0.12;
  const y = box.y + (box.height - 8) - ((0.2 - 0.2 + margin) / (1.8 + 2 * margin)) * (box.height - 42);
  const at = async (frame: number) => box.x + (await frameX(page, frame));
  await dragMouse(page, { x: await at(13), y }, { x: await at(15), y: y - 40 });
  const key = (await saved(page, id)).curves[path].keys[1];
  expect(key.frame).toBe(15);
  expect(key.value).toBeGreaterThan(0.3);
});

test('changing the rate asks whether to keep frames or seconds', async ({ page }) => {
  const { id, path } = await bounce(page, 'Rate');
  await page.getByRole('button', { name: '24 fps' }).click();
  await page.getByLabel('Frames a second').fill('48');
  await page.getByRole('button', { name: /keep seconds/ }).click();
  const shot = await saved(page, id);
  expect(shot.rate).toBe(48);
  expect(shot.curves[path].keys.map((k) => k.frame)).toEqual([1, 25, 49]);
  await expect(page.getByRole('button', { name: '48 fps' })).toBeVisible();
});

test.describe('with pictures', () => {
  test.use({ sketch: false });

  test('the pose strip shows a picture for each key frame and goes there', async ({ page }) => {
    await bounce(page, 'Strip');
    const poses = page.getByRole('navigation', { name: 'Pose strip' }).getByRole('button', { name: /pose at frame/ });
    await expect(poses).toHaveCount(3);
    await expect(poses.nth(1).locator('canvas[data-drawn]')).toBeVisible();
    await poses.nth(1).click();
    await expect(page.getByTestId('frame')).toHaveText('13');
    await expect(poses.nth(1)).toHaveAttribute('aria-current', 'true');
  });
});
