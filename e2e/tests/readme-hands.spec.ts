import { channel, dragMouse, findCommand, goTo, openHome, saved, tabTo } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** The first animation of the README by one hand alone: the keyboard's, and the mouse's. */

const frame = (page: Page) => page.getByTestId('frame');
const shownBar = (page: Page) => page.getByRole('region', { name: 'Shown, not made' });
const stage = (page: Page) => page.locator('canvas[data-testid=stage][data-drawn]');
const shotOf = (page: Page) => new URL(page.url()).pathname.split('/').pop()!;

test('a first animation by the keyboard alone', { tag: '@lists' }, async ({ page }) => {
  await openHome(page);
  // Tab to “new shot” of the Night Ferry.
  const newShot = page
    .getByRole('region', { name: 'Night Ferry', exact: true })
    .getByRole('button', { name: 'new shot', exact: true });
  await tabTo(page, newShot);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Bounce by keys');
  await page.keyboard.press('Enter');
  await expect(stage(page)).toBeVisible();
  const id = shotOf(page);

  await findCommand(page, 'bring in: plane');
  await findCommand(page, 'bring in: ball');
  // F6 goes from panel to panel: the third is the channels', at its first number.
  const toHeight = async () => {
    await tabTo(page, channel(page, 'move x'), 'F6');
    await page.keyboard.press('Tab');
    await expect(channel(page, 'move y')).toBeFocused();
  };
  await toHeight();
  await page.keyboard.type('2');
  await page.keyboard.press('k');
  const forward = async (to: number) => {
    while (Number(await frame(page).innerText()) < to) await page.keyboard.press('ArrowRight');
    await expect(frame(page)).toHaveText(String(to));
  };
  await forward(13);
  await toHeight();
  await page.keyboard.type('0.2');
  await page.keyboard.press('Enter');
  await page.keyboard.press('l');
  await page.keyboard.press('a');
  await forward(21);
  await toHeight();
  await page.keyboard.type('1');
  await page.keyboard.press('Enter');
  await forward(29);
  await toHeight();
  await page.keyboard.type('0.2');
  await page.keyboard.press('Enter');
  await page.keyboard.press('a');
  const ball = Object.values((await saved(page, id)).members).find((m) => m.kind === 'ball')!.id;
  const path = `${ball}.move.y`;
  const keys = async () => (await saved(page, id)).curves[path].keys;
  expect((await keys()).map((k) => [k.frame, k.value])).toEqual([
    [1, 2],
    [13, 0.2],
    [21, 1],
    [29, 0.2],
  ]);
  // J goes to a finding, Alt+Shift+J shows its fix, Enter keeps it.
  await page.keyboard.press('Alt+e');
  await expect(page.getByRole('region', { name: 'Eased landing' })).toBeVisible();
  await page.keyboard.press('j');
  await expect(frame(page)).toHaveText('13');
  await page.keyboard.press('Alt+Shift+j');
  await expect(shownBar(page)).toContainText('Sharp contact');
  await page.keyboard.press('Enter');
  expect((await keys())[1].joined).toBe(false);
  await findCommand(page, 'squash from speed');
  await expect(shownBar(page)).toContainText('Squash from speed for Ball');
  await page.keyboard.press('Enter');
  await expect(shownBar(page)).toHaveCount(0);
  expect(Object.keys((await saved(page, id)).curves).some((p) => p.includes('deform'))).toBe(true);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
  await page.keyboard.press('Control+m');
  await expect(page.getByRole('dialog', { name: 'Movie, picture, contact sheet' })).toBeVisible();
});

test('a first animation by the mouse alone', { tag: '@lists' }, async ({ page }) => {
  await openHome(page);
  await page
    .getByRole('region', { name: 'Night Ferry', exact: true })
    .getByRole('button', { name: 'new shot', exact: true })
    .click();
  await page.getByRole('dialog').getByRole('button', { name: 'Begin' }).click();
  await expect(stage(page)).toBeVisible();
  const id = shotOf(page);
  for (const kind of ['plane', 'ball']) {
    await page.getByRole('button', { name: 'bring in…' }).click();
    await page.getByRole('menuitem', { name: kind, exact: true }).click();
  }
  /** Drags a number until it is about as much; every pixel counts. */
  const dragTo = async (height: number) => {
    const field = channel(page, 'move y');
    for (let i = 0; i < 6; i++) {
      const now = Number(await field.inputValue());
      if (Math.abs(now - height) < 0.06) return;
      const box = (await field.boundingBox())!;
      const from = { x: box.x + 20, y: box.y + box.height / 2 };
      const probe = i === 0 ? 20 : Math.round((height - now) / perPixel);
      await dragMouse(page, from, { x: from.x + probe, y: from.y });
      if (i === 0) perPixel = (Number(await field.inputValue()) - now) / probe;
    }
    expect(Number(await field.inputValue())).toBeCloseTo(height, 0);
  };
  let perPixel = 0.01;
  await dragTo(2);
  await page.getByRole('button', { name: 'Key every channel' }).click();
  await goTo(page, 13);
  await dragTo(0.2);
  await page.getByRole('button', { name: 'Key every channel' }).click();
  await page.getByRole('button', { name: 'auto key off' }).click();
  await page.getByRole('menuitemcheckbox', { name: /^every change is keyed/ }).click();
  await goTo(page, 21);
  await dragTo(1);
  await goTo(page, 29);
  await dragTo(0.2);
  const ball = Object.values((await saved(page, id)).members).find((m) => m.kind === 'ball')!.id;
  const path = `${ball}.move.y`;
  expect((await saved(page, id)).curves[path].keys.map((k) => k.frame)).toEqual([1, 13, 21, 29]);
  await page.getByRole('tab', { name: /^checks/ }).click();
  const eased = page.getByRole('region', { name: 'Eased landing' });
  await eased.getByRole('button', { name: 'sharp contact' }).first().click();
  await shownBar(page).getByRole('button', { name: 'keep' }).click();
  expect((await saved(page, id)).curves[path].keys.some((k) => !k.joined)).toBe(true);
  await page.getByRole('treeitem', { name: 'Ball' }).click();
  await page.getByRole('tab', { name: /^kits/ }).click();
  await page.getByRole('button', { name: /^Squash from speed/ }).click();
  await shownBar(page).getByRole('button', { name: 'keep' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.getByRole('button', { name: 'Make a movie, a picture or a contact sheet' }).click();
  await expect(page.getByRole('dialog', { name: 'Movie, picture, contact sheet' })).toBeVisible();
});
