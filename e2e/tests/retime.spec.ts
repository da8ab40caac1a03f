import {
  bounce,
  document,
  dragMouse,
  framesOf,
  frameX,
  goTo,
  saved,
  setChannel,
  sheetPlace,
  timing,
  type,
} from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Holds the mouse on a key, takes it somewhere, and does something before letting go. */
async function dragAnd(page: Page, from: number, to: number, before: () => Promise<unknown>): Promise<void> {
  const [a, b] = [await sheetPlace(page, 1, from), await sheetPlace(page, 1, to)];
  await page.mouse.move(a.x, a.y);
  await page.mouse.down();
  await page.mouse.move(b.x, b.y, { steps: 6 });
  await before();
  await page.mouse.up();
}

test('what a collision will do is said and chosen before letting go', async ({ page }) => {
  const { id, path } = await bounce(page, 'Collisions');
  const note = page.getByRole('status').filter({ hasText: 'move a key' });

  await dragAnd(page, 13, 40, () => expect(note).toContainText('stops at the next key'));
  expect(await framesOf(page, id, path)).toEqual([1, 24, 25]);
  await page.keyboard.press('Control+z');

  await dragAnd(page, 13, 40, async () => {
    await page.keyboard.press('p');
    await expect(note).toContainText('pushes a key along');
  });
  expect(await framesOf(page, id, path)).toEqual([1, 40, 41]);
  await page.keyboard.press('Control+z');

  await dragAnd(page, 13, 25, async () => {
    await page.keyboard.press('r');
    await expect(note).toContainText('replaces a key');
  });
  expect(await framesOf(page, id, path)).toEqual([1, 25]);
  await page.keyboard.press('Control+z');
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);
});

test('Escape lets go of a drag without doing anything, and Ctrl leaves the whole frames', async ({ page }) => {
  const { id, path } = await bounce(page, 'Let go');
  await dragAnd(page, 13, 20, () => page.keyboard.press('Escape'));
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);
  await page.keyboard.down('Control');
  await dragMouse(page, await sheetPlace(page, 1, 13), await sheetPlace(page, 1, 15.4));
  await page.keyboard.up('Control');
  const [, stray] = await framesOf(page, id, path);
  expect(stray).toBeGreaterThan(15);
  expect(Number.isInteger(stray)).toBe(false);
  await page.keyboard.press('w');
  expect(await framesOf(page, id, path)).toEqual([1, Math.round(stray), 25]);
});

test('the bracket over picked keys scales their time at its ends and moves them in its middle', async ({ page }) => {
  const { id, path } = await bounce(page, 'Bracket');
  await page.keyboard.press('Shift+E');
  const box = (await timing(page).boundingBox())!;
  const at = async (frame: number) => ({ x: box.x + (await frameX(page, frame)), y: box.y + 22 });
  await dragMouse(page, await at(25), await at(49));
  expect(await framesOf(page, id, path)).toEqual([1, 25, 49]);
  await dragMouse(page, await at(30), await at(33));
  expect(await framesOf(page, id, path)).toEqual([4, 28, 52]);
});

test('the ribbon slides the spacing between two keys and leaves the keys', async ({ page }) => {
  const { id, path } = await bounce(page, 'Ribbon');
  await dragMouse(page, await sheetPlace(page, 1, 7), await sheetPlace(page, 1, 9));
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);
  const shot = await document(page, id);
  const [first, second] = shot.document.curves[path].keys;
  expect([first.out.kind, second.in.kind]).toEqual(['free', 'free']);
  // Both handles reach later: the ball stays up longer and comes down faster.
  expect(first.out.frames).toBeGreaterThan(4.5);
  expect(second.in.frames).toBeLessThan(3.5);
});

test('a pose dragged in the strip is retimed with all its keys', async ({ page }) => {
  const { id, path } = await bounce(page, 'Strip drag');
  const pose = page.getByRole('button', { name: 'Key pose at frame 13' });
  const box = (await pose.boundingBox())!;
  const from = { x: box.x + 30, y: box.y + 20 };
  // Eight pixels are a frame.
  await dragMouse(page, from, { x: from.x + 40, y: from.y });
  expect(await framesOf(page, id, path)).toEqual([1, 18, 25]);
  await page.getByRole('button', { name: 'Key pose at frame 18' }).click();
  await expect(page.getByTestId('frame')).toHaveText('18');
  await page.keyboard.press('Alt+ArrowLeft');
  expect(await framesOf(page, id, path)).toEqual([1, 17, 25]);
});

test('everything about time is done with the keyboard alone, and again with one press', async ({ page }) => {
  const { id, path } = await bounce(page, 'Keyboard time');
  const frames = () => framesOf(page, id, path);
  await goTo(page, 5);
  await page.keyboard.press('i');
  expect(await frames()).toEqual([1, 14, 26]);
  await page.keyboard.press('y');
  expect(await frames()).toEqual([1, 15, 27]);
  await page.keyboard.press('Shift+I');
  expect(await frames()).toEqual([1, 14, 26]);
  await page.keyboard.press('Control+Alt+ArrowRight');
  expect(await frames()).toEqual([1, 15, 27]);
  await page.keyboard.press('Home');
  await page.keyboard.press('Alt+Shift+ArrowRight');
  expect(await frames()).toEqual([1, 8, 14]);
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  expect(await frames()).toEqual([1, 15, 27]);
  await page.keyboard.press('Shift+R');
  expect(await frames()).toEqual([1, 13, 27]);
  await page.keyboard.press('Shift+P');
  expect((await saved(page, id)).play).toEqual({ first: 1, last: 27 });
});

test('a run is retimed in numbers: moved, repeated, offset, and copied elsewhere', async ({ page }) => {
  const { id, path } = await bounce(page, 'In numbers', [
    [1, 1],
    [7, 0],
    [13, 1],
  ]);
  const frames = () => framesOf(page, id, path);
  await page.keyboard.press('r');
  const card = page.getByRole('dialog', { name: 'Retime' });
  await expect(card).toContainText('3 keys, 1–13');
  await type(page, 'Times to repeat', 2);
  await card.getByRole('button', { name: 'repeat' }).click();
  expect(await frames()).toEqual([1, 7, 13]);
  await page.keyboard.press('Enter');
  expect(await frames()).toEqual([1, 7, 13, 19, 25, 31, 37]);
  await type(page, 'Scale of time in percent', 200);
  await page.keyboard.press('Enter');
  // About frame 13, where the last key was set.
  expect(await frames()).toEqual([-11, 1, 13, 25, 37, 49, 61]);
  await type(page, 'Frames to move by', 12);
  await card.getByRole('button', { name: 'move', exact: true }).click();
  await card.getByRole('button', { name: 'keep', exact: true }).click();
  expect(await frames()).toEqual([1, 13, 25, 37, 49, 61, 73]);
  await card.getByRole('button', { name: 'Close' }).click();
  await goTo(page, 61);
  await page.keyboard.press('e');
  await page.keyboard.press('Control+c');
  await goTo(page, 90);
  await page.keyboard.press('Control+v');
  expect((await frames()).at(-1)).toBe(90);
});

test('flipping shows the key before or after for as long as its key is held', async ({ page }) => {
  await bounce(page, 'Flip');
  await goTo(page, 16);
  await page.keyboard.down('PageUp');
  await expect(page.getByTestId('frame')).toHaveText('13');
  await page.keyboard.up('PageUp');
  await expect(page.getByTestId('frame')).toHaveText('16');
  await page.keyboard.down('PageDown');
  await expect(page.getByTestId('frame')).toHaveText('25');
  await page.keyboard.up('PageDown');
  await expect(page.getByTestId('frame')).toHaveText('16');
  await page.keyboard.down('f');
  for (const shown of ['13', '16', '25']) await expect(page.getByTestId('frame')).toHaveText(shown);
  await page.keyboard.up('f');
  await expect(page.getByTestId('frame')).toHaveText('16');
});

test('working goes on while it plays', async ({ page }) => {
  const { id, path } = await bounce(page, 'While playing');
  await page.keyboard.press('Shift+P');
  // No screen keeps up with that; saying so moves nothing that a hand is at.
  await page.getByRole('button', { name: '24 fps' }).click();
  await page.getByLabel('Frames a second').fill('240');
  await page.getByRole('button', { name: /keep frames/ }).click();
  const before = await timing(page).boundingBox();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByTestId('dropped')).toContainText('dropped in a second');
  expect(await timing(page).boundingBox()).toEqual(before);
  await dragMouse(page, await sheetPlace(page, 1, 13), await sheetPlace(page, 1, 16));
  expect(await framesOf(page, id, path)).toEqual([1, 16, 25]);
  await setChannel(page, 'move x', 1.5);
  expect(Object.values((await saved(page, id)).members)[0].values['move.x']).toBe(1.5);
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.keyboard.press('Control+Delete');
  expect(await framesOf(page, id, path)).toEqual([1, 10]);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});
