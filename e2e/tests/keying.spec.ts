import { bringIn, channel, document, goTo, member, newShot, saved, setChannel } from '../desk.ts';
import { expect, test } from '../test.ts';

test('a fall and a bounce, keyed in all four ways; twenty steps undone and redone; all of it there after a reload', async ({
  page,
}) => {
  const id = await newShot(page, 'Fall');
  await bringIn(page, 'plane');
  await bringIn(page, 'ball');
  const ball = member(await saved(page, id), 'ball').id;

  // Every channel.
  await setChannel(page, 'move y', 2);
  await page.keyboard.press('k');
  let shot = await saved(page, id);
  expect(Object.keys(shot.curves).sort()).toEqual(
    ['move', 'size', 'turn'].flatMap((g) => ['x', 'y', 'z'].map((a) => `${ball}.${g}.${a}`)).sort(),
  );
  expect(shot.curves[`${ball}.move.y`].keys.map((k) => [k.frame, k.value])).toEqual([[1, 2]]);

  // Only the channel picked; until then the change is loose.
  await goTo(page, 13);
  await setChannel(page, 'move y', 0.2);
  await expect(page.getByText('move y is loose')).toBeVisible();
  await page.getByRole('button', { name: 'Pick move y' }).click();
  await page.keyboard.press('Shift+K');
  shot = await saved(page, id);
  expect(shot.curves[`${ball}.move.y`].keys.map((k) => k.frame)).toEqual([1, 13]);
  expect(shot.curves[`${ball}.move.x`].keys).toHaveLength(1);
  expect(shot.loose).toEqual({});

  // Only move.
  await goTo(page, 23);
  await setChannel(page, 'move y', 1.2);
  await page.keyboard.press('Alt+m');
  shot = await saved(page, id);
  expect(shot.curves[`${ball}.move.z`].keys.map((k) => k.frame)).toEqual([1, 23]);
  expect(shot.curves[`${ball}.turn.z`].keys.map((k) => k.frame)).toEqual([1]);

  // Auto-key: what a hand changes, and nothing else.
  await page.keyboard.press('a');
  await expect(page.getByText('auto key: what you change is keyed')).toBeVisible();
  await goTo(page, 33);
  await setChannel(page, 'move y', 0.2);
  await setChannel(page, 'move x', 0.8);
  await page.keyboard.press('a');
  shot = await saved(page, id);
  expect(shot.curves[`${ball}.move.y`].keys.map((k) => k.frame)).toEqual([1, 13, 23, 33]);
  expect(shot.curves[`${ball}.move.x`].keys.map((k) => k.frame)).toEqual([1, 23, 33]);
  expect(shot.curves[`${ball}.move.z`].keys.map((k) => k.frame)).toEqual([1, 23]);

  // Undone to the empty shot, and done again.
  const before = shot;
  for (let frame = 36; frame < 56; frame += 2) {
    await goTo(page, frame);
    await page.keyboard.press('Alt+k');
  }
  const after = await saved(page, id);
  for (let i = 0; i < 10; i++) await page.keyboard.press('Control+z');
  expect(await saved(page, id)).toEqual(before);
  for (let i = 0; i < 10; i++) await page.keyboard.press('Control+z');
  expect(Object.keys((await saved(page, id)).members)).toHaveLength(0);
  for (let i = 0; i < 20; i++) await page.keyboard.press('Control+Shift+Z');
  expect(await saved(page, id)).toEqual(after);

  const { revision } = await document(page, id);
  await page.reload();
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toBeVisible();
  expect((await document(page, id)).revision).toBe(revision);
});

test('a loose change is dropped with one press, and auto-key where keyed leaves other channels alone', async ({
  page,
}) => {
  const id = await newShot(page, 'Loose');
  await bringIn(page, 'box');
  const box = member(await saved(page, id), 'box').id;
  await page.getByRole('button', { name: /^move x is constant; key/ }).click();
  await setChannel(page, 'move x', 3);
  expect((await saved(page, id)).loose).toEqual({ [`${box}.move.x`]: [{ frame: 1, value: 3 }] });
  await page.keyboard.press('d');
  expect((await saved(page, id)).loose).toEqual({});
  await expect(channel(page, 'move x')).toHaveValue('0.000');

  await page.keyboard.press('Shift+A');
  await goTo(page, 9);
  await setChannel(page, 'move x', 2);
  await setChannel(page, 'move y', 1);
  const shot = await saved(page, id);
  expect(Object.keys(shot.curves)).toEqual([`${box}.move.x`]);
  expect(shot.curves[`${box}.move.x`].keys.map((k) => k.frame)).toEqual([1, 9]);
  expect(shot.members[box].values['move.y']).toBe(1);

  // Pressing the sign of a key that is here takes it away.
  await page.getByRole('button', { name: /^move x is keyed here/ }).click();
  expect((await saved(page, id)).curves[`${box}.move.x`].keys.map((k) => k.frame)).toEqual([1]);
});

test('numbers can be dragged and stepped, and what cannot be read is refused', async ({ page }) => {
  const id = await newShot(page, 'Numbers');
  await bringIn(page, 'box');
  const field = channel(page, 'move x');
  const box = (await field.boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 70, box.y + 10, { steps: 5 });
  await page.mouse.up();
  await expect(field).toHaveValue('0.500');
  await field.click();
  await field.press('ArrowUp');
  await expect(field).toHaveValue('0.510');
  await field.fill('nonsense');
  await field.press('Enter');
  await expect(page.getByRole('alert')).toHaveText('“nonsense” is no number: from −10,000 to 10,000 m it may be.');
  await page.keyboard.press('Escape');
  await expect(field).toHaveValue('0.510');
  const shot = await saved(page, id);
  expect(member(shot, 'box').values['move.x']).toBeCloseTo(0.51, 9);
  // The whole drag is one step.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(field).toHaveValue('0.000');
});
