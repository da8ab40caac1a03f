import { bringIn, goTo, newShot, saved, setChannel } from '../desk.ts';
import { expect, test } from '../test.ts';

test('a control set picks and keys channels of several objects together', async ({ page }) => {
  const id = await newShot(page, 'Sets');
  await bringIn(page, 'ball');
  await bringIn(page, 'box');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+g');
  await page.getByLabel(/What do they do together/).fill('Everything that floats');
  await page.getByRole('button', { name: 'make the set' }).click();
  await page.getByRole('tab', { name: 'sets' }).click();
  await expect(page.getByRole('list', { name: 'Control sets' })).toContainText('Everything that floats18 of 2');
  await goTo(page, 7);
  await page.getByRole('button', { name: 'Key the set Everything that floats' }).click();
  const keyed = (await saved(page, id)).curves;
  expect(Object.keys(keyed)).toHaveLength(18);
  expect(Object.values(keyed).every((c) => c.keys.length === 1 && c.keys[0].frame === 7)).toBe(true);

  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Everything that floats/ }).click();
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(2);
  await goTo(page, 12);
  await page.keyboard.press('Control+k');
  expect(Object.values((await saved(page, id)).curves).every((c) => c.keys.length === 2)).toBe(true);
});

test('one axis, what has changed, and a choice of its own for key all: each keys exactly what it names', async ({
  page,
}) => {
  const id = await newShot(page, 'Ways to key');
  await bringIn(page, 'ball');
  await page.keyboard.press('Alt+y');
  const channels = async () =>
    Object.fromEntries(
      Object.entries((await saved(page, id)).curves).map(([path, c]) => [
        path.slice(path.indexOf('.') + 1),
        c.keys.map((k) => k.frame),
      ]),
    );
  expect(await channels()).toEqual({ 'move.y': [1] });
  await page.keyboard.press('Alt+x');
  await goTo(page, 9);
  await setChannel(page, 'move x', 2);
  await page.keyboard.press('c');
  expect(await channels()).toEqual({ 'move.x': [1, 9], 'move.y': [1] });

  await page.getByRole('button', { name: 'Pick move z' }).click();
  await page.getByRole('button', { name: 'More ways to key' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'the one picked channel' }).click();
  await goTo(page, 20);
  await page.keyboard.press('k');
  expect(await channels()).toEqual({ 'move.x': [1, 9], 'move.y': [1], 'move.z': [20] });
});
