import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';

/** Takes the pictures of the documentation. Not tests: they live apart and run by `npm run shots`. */
const picture = (page: Page, name: string) =>
  page.screenshot({ path: join(import.meta.dirname, '../../docs/screenshots', `${name}.png`) });

async function openFloat(page: Page) {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open 01 Float on the steps' }).click();
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible();
  await page.getByRole('treeitem', { name: 'Float' }).click();
  await expect(
    page.getByRole('navigation', { name: 'Pose strip' }).getByRole('button').nth(11).locator('canvas[data-drawn]'),
  ).toBeAttached({
    timeout: 60_000,
  });
}

async function toFrame(page: Page, presses: number) {
  for (let i = 0; i < presses; i++) await page.keyboard.press('Shift+ArrowRight');
  // Two refreshes: one in which the frame is evaluated and drawn, one in which it is on the screen.
  await page.evaluate(
    () =>
      new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(drawn)))),
  );
}

test('home', async ({ page }) => {
  await page.goto('/');
  await expect(page.locator('article img')).toBeVisible({ timeout: 30_000 });
  await picture(page, 'home');
});

for (const theme of ['light', 'night'] as const) {
  test(`animate ${theme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: theme === 'night' ? 'dark' : 'light' });
    await openFloat(page);
    await toFrame(page, 6);
    await picture(page, `animate-${theme}`);
  });
}

test('curves', async ({ page }) => {
  await openFloat(page);
  await toFrame(page, 5);
  await page.keyboard.press('Shift+C');
  await page.getByRole('button', { name: 'Pick move y' }).click();
  await page.getByRole('button', { name: 'frame all' }).click();
  await page.keyboard.press('e');
  await picture(page, 'curves');
});

test('wide', async ({ page }) => {
  await page.setViewportSize({ width: 1920, height: 1080 });
  await openFloat(page);
  await toFrame(page, 8);
  await picture(page, 'animate-wide');
});

test('contact sheet', async ({ page }) => {
  await openFloat(page);
  await page.keyboard.press('Control+m');
  await page.getByRole('radio', { name: /contact sheet/ }).check();
  await page
    .getByRole('textbox', { name: 'frames' })
    .fill('1, 13, 19, 24, 27-31, 36, 43, 49, 55, 60, 66, 71, 76, 80, 84, 100');
  await page.getByRole('button', { name: 'make it' }).click();
  await expect(page.locator('a[download]')).toBeVisible({ timeout: 60_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), page.locator('a[download]').click()]);
  await download.saveAs(join(import.meta.dirname, '../../docs/screenshots/contact-sheet.png'));
});
