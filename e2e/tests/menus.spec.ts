import AxeBuilder from '@axe-core/playwright';
import { bounce, bringIn, channel, frameX, openPractice, saved, sheetPlace } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** The menu of what is under the hand: a right press, or Shift+F10. */

const menu = (page: Page, of: string) => page.getByRole('menu', { name: `Menu of ${of}` });

test('a key, a row, a channel, somebody of the cast and a body of the stage each have a menu of their own', async ({
  page,
}) => {
  const { id, path } = await bounce(page, 'Menus', [
    [1, 2],
    [13, 0.5],
  ]);
  await bringIn(page, 'box');
  await page.getByRole('treeitem', { name: 'Ball' }).click();

  // A key in the sheet: picked by the press, and deleted.
  const at = await sheetPlace(page, 0, 13);
  await page.mouse.click(at.x, at.y, { button: 'right' });
  await expect(menu(page, 'a key')).toBeVisible();
  expect((await new AxeBuilder({ page }).include('[role=menu]').analyze()).violations).toEqual([]);
  await menu(page, 'a key')
    .getByRole('menuitem', { name: /^Linear keys/ })
    .click();
  let keys = (await saved(page, id)).curves[path].keys;
  expect([keys[1].in.kind, keys[0].out.kind]).toEqual(['linear', 'smooth']);
  await page.mouse.click(at.x, at.y, { button: 'right' });
  await page.getByRole('menuitem', { name: /^Delete the picked keys/ }).click();
  keys = (await saved(page, id)).curves[path].keys;
  expect(keys.map((k) => k.frame)).toEqual([1]);

  // A channel, by the keyboard, from its number.
  await channel(page, 'move y').click();
  await page.keyboard.press('Shift+F10');
  await expect(menu(page, 'move y of Ball')).toBeVisible();
  await menu(page, 'move y of Ball')
    .getByRole('menuitem', { name: /^Delete all keys of the picked channels/ })
    .click();
  expect((await saved(page, id)).curves[path]).toBeUndefined();

  // Somebody of the cast: the press picks it, and what is done is done to it.
  await page.getByRole('treeitem', { name: 'Box' }).click({ button: 'right' });
  await expect(page.locator('[role=treeitem][aria-label=Box]')).toHaveAttribute('aria-selected', 'true');
  await menu(page, 'Box')
    .getByRole('menuitem', { name: /^Delete what is picked/ })
    .click();
  expect(Object.values((await saved(page, id)).members).map((m) => m.name)).toEqual(['Ball']);

  // A body in the stage; a right drag moves the view and opens nothing.
  await page.keyboard.press('Shift+V');
  const stage = (await page.getByTestId('stage').boundingBox())!;
  const [x, y] = [stage.x + stage.width / 2, stage.y + stage.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down({ button: 'right' });
  await page.mouse.move(x + 60, y + 20, { steps: 4 });
  await page.mouse.up({ button: 'right' });
  await expect(page.getByRole('menu')).toHaveCount(0);
  await page.keyboard.press('Shift+V');
  await expect(async () => {
    await page.mouse.click(x, y, { button: 'right' });
    await expect(menu(page, 'Ball')).toBeVisible({ timeout: 500 });
  }).toPass();
  await menu(page, 'Ball')
    .getByRole('menuitem', { name: /^Pick the pivot/ })
    .click();
  await expect(page.getByRole('button', { name: 'Pick pivot y' })).toHaveAttribute('aria-pressed', 'true');
});

test('keys are pasted with their sides changed', async ({ page }) => {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'leg L', exact: true }).first().click();
  await channel(page, 'move x').click();
  await page.keyboard.type('0.1');
  await page.keyboard.press('Tab');
  await page.keyboard.type('0.2');
  await page.keyboard.press('k');
  await page.keyboard.press('Shift+E');
  await page.keyboard.press('Control+c');
  const box = (await page.getByTestId('sheet').boundingBox())!;
  await page.mouse.click(box.x + (await frameX(page, 13)), box.y + 8);
  await page.keyboard.press('Control+Alt+v');
  const { curves } = await saved(page, id);
  const at13 = (path: string) => curves[path].keys.find((k) => k.frame === 13)?.value;
  expect(at13('porter-footR.move.x')).toBeCloseTo(-0.1, 9);
  expect(at13('porter-footR.move.y')).toBeCloseTo(0.2, 9);
  expect(curves['porter-footL.move.x'].keys.map((k) => k.frame)).toEqual([1]);
});
