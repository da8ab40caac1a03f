import AxeBuilder from '@axe-core/playwright';
import { bringIn, channel, goTo, newShot } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Help where one is: a first shot that walks along, and what every panel is. */

const firstShot = (page: Page) => page.getByRole('region', { name: 'First shot' });

test('the first shot goes on as its steps are done, can be left, and is taken up where it was', async ({ page }) => {
  await newShot(page, 'First shot');
  await expect(firstShot(page)).toContainText('1 of 7: Bring somebody in');
  expect((await new AxeBuilder({ page }).include('section[aria-label="First shot"]').analyze()).violations).toEqual([]);
  await bringIn(page, 'ball');
  await expect(firstShot(page)).toContainText('2 of 7: Lift it');
  await channel(page, 'move y').click();
  await page.keyboard.type('2');
  await page.keyboard.press('Enter');
  await expect(firstShot(page)).toContainText('3 of 7: Key it');
  await page.keyboard.press('k');
  await expect(firstShot(page)).toContainText('4 of 7: Go to another frame');
  await firstShot(page).getByRole('button', { name: 'Leave the first shot' }).click();
  await expect(firstShot(page)).toHaveCount(0);
  await page.reload();
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible();
  await expect(firstShot(page)).toHaveCount(0);
  await page.keyboard.press('/');
  await page.keyboard.type('first shot');
  await page.keyboard.press('Enter');
  await expect(firstShot(page)).toContainText('4 of 7: Go to another frame');
  await goTo(page, 13);
  await page.getByRole('treeitem', { name: 'Ball' }).click();
  await channel(page, 'move y').click();
  await page.keyboard.type('0.2');
  await page.keyboard.press('k');
  await expect(firstShot(page)).toContainText('6 of 7: Play it');
  await page.keyboard.press('Space');
  await expect(firstShot(page)).toContainText('7 of 7: Hear what the checks say');
  await page.keyboard.press('Space');
  await page.getByRole('tab', { name: /^checks/ }).click();
  await expect(firstShot(page)).toContainText('That was your first shot.');
});

test('F1 says what the panel is that one is in, and every panel has its mark', async ({ page }) => {
  await newShot(page, 'What is this');
  await page.getByLabel('Find rows').focus();
  await page.keyboard.press('F1');
  await expect(page.getByRole('dialog', { name: 'What is this? The sheet' })).toContainText('Who has keys when.');
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'curves' }).click();
  await page.keyboard.press('F1');
  await expect(page.getByRole('dialog', { name: 'What is this? The curves' })).toBeVisible();
  await page.keyboard.press('Escape');
  for (const side of ['channels', 'poses', 'clips', 'sets', 'kits', 'checks']) {
    await page.getByRole('tab', { name: new RegExp(`^${side}`) }).click();
    await page.getByRole('button', { name: `What is this? The ${side}` }).click();
    const card = page.getByRole('dialog', { name: `What is this? The ${side}` });
    await expect(card).toContainText('Go on:');
    expect((await new AxeBuilder({ page }).include('[role=dialog]').analyze()).violations).toEqual([]);
    await card.getByRole('button', { name: 'close' }).click();
    await expect(card).toHaveCount(0);
  }
  for (const panel of ['cast', 'stage', 'pose strip', 'curves'])
    await expect(page.getByRole('button', { name: `What is this? The ${panel}` })).toBeVisible();
});
