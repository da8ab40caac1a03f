import AxeBuilder from '@axe-core/playwright';
import { bringIn, goTo, newShot, openHome, saved, setChannel } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** What axe finds on the page, or in what has changed of it. */
const findings = async (page: Page, ...changed: string[]) => {
  const axe = new AxeBuilder({ page });
  for (const part of changed) axe.include(part);
  const { violations } = await axe.analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`);
};

test('axe finds nothing at home', { tag: '@lists' }, async ({ page }) => {
  await openHome(page);
  expect(await findings(page)).toEqual([]);
});

for (const theme of ['light', 'dark'] as const) {
  test(`axe finds nothing on the desk, ${theme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: theme });
    const id = await newShot(page, 'Access');
    await bringIn(page, 'ball');
    await page.keyboard.press('k');
    await page.keyboard.press('a');
    await saved(page, id);
    expect(await findings(page)).toEqual([]);
    await page.keyboard.press('Shift+C');
    await page.keyboard.press('t');
    await page.keyboard.press('4');
    expect(await findings(page, '[data-place=stage]', '[data-place=below]')).toEqual([]);
    // Four views take four times as long to draw, and have been looked at.
    await page.keyboard.press('4');
    await page.getByRole('tab', { name: 'sets' }).click();
    expect(await findings(page, '[data-place=beside]')).toEqual([]);
    // The rest is the same in both themes but for its colours, which all come from one list.
    if (theme === 'dark') return;
    for (const side of [/^kits/, /^checks/]) {
      await page.getByRole('tab', { name: side }).click();
      await expect(page.getByText('Looking the shot through…')).toBeHidden();
      expect(await findings(page, '[data-place=beside]')).toEqual([]);
    }
    await page.getByRole('tab', { name: 'kits' }).click();
    await page.getByRole('button', { name: /^Bounce/ }).click();
    await page.getByRole('tab', { name: 'bounces' }).click();
    expect(await findings(page, '[data-place=beside]', '[data-place=below]')).toEqual([]);
    await page.getByRole('button', { name: 'keep', exact: true }).click();
    await page.getByRole('tab', { name: 'formula' }).click();
    await page.getByRole('textbox', { name: 'Formula', exact: true }).fill('wave(1, 24) + wa');
    expect(await findings(page, '[data-place=below]')).toEqual([]);
  });
}

test('axe finds nothing in the cards', async ({ page }) => {
  await newShot(page, 'Cards');
  await bringIn(page, 'ball');
  for (const frame of [1, 9]) {
    await goTo(page, frame);
    await setChannel(page, 'move y', frame);
    await page.keyboard.press('k');
  }
  for (const [keys, name] of [
    ['?', 'Shortcuts'],
    ['Control+m', 'Movie, picture, contact sheet'],
    ['r', 'Retime'],
    ['Control+Shift+d', 'Copies set out'],
    ['Control+g', 'A control set of 9 channels'],
  ]) {
    await page.keyboard.press(keys);
    await expect(page.getByRole('dialog', { name })).toBeVisible();
    expect(await findings(page, '[role=dialog]')).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  }
});

test('the palette finds a command by a plain word and runs it', async ({ page }) => {
  const id = await newShot(page, 'Palette');
  await page.keyboard.press('/');
  await page.getByPlaceholder('what do you want to do?').fill('bring in steps');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('treeitem', { name: 'Steps' })).toBeVisible();
  expect(Object.values((await saved(page, id)).members).map((m) => m.kind)).toEqual(['steps']);
});

test('a shortcut can be changed, and the old one goes', async ({ page }) => {
  const id = await newShot(page, 'Own keys');
  await bringIn(page, 'ball');
  await page.keyboard.press('?');
  await page.getByRole('button', { name: 'Change the shortcut of: Key every channel' }).click();
  await page.keyboard.press('j');
  await expect(page.getByRole('button', { name: 'Change the shortcut of: Key every channel' })).toHaveText('J');
  await page.keyboard.press('Escape');
  await page.keyboard.press('k');
  expect(Object.keys((await saved(page, id)).curves)).toHaveLength(0);
  await page.keyboard.press('j');
  expect(Object.keys((await saved(page, id)).curves)).toHaveLength(9);
});

test('panels keep the size they are given', async ({ page }) => {
  await newShot(page, 'Panels');
  const cast = page.getByRole('region', { name: 'Cast' });
  const before = (await cast.boundingBox())!.width;
  await page.getByRole('separator').first().focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(async () => expect((await cast.boundingBox())!.width).toBeGreaterThan(before + 20)).toPass();
  const wide = (await cast.boundingBox())!.width;
  await page.reload();
  await expect(cast).toBeVisible();
  await expect(async () => expect(Math.abs((await cast.boundingBox())!.width - wide)).toBeLessThan(3)).toPass();
});
