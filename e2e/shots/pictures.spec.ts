import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, type Page, test } from '@playwright/test';
import { keyedBall } from '../desk.ts';

/** Takes the pictures of the documentation. Not tests: they live apart and run by `npm run shots`. */
const picture = (page: Page, name: string) =>
  page.screenshot({ path: join(import.meta.dirname, '../../docs/screenshots', `${name}.png`) });

// Pictures for people: with smooth edges, though they are drawn without a graphics card.
test.beforeEach(async ({ page }) => {
  await page.addInitScript(() => {
    localStorage.setItem('varrup-habits', JSON.stringify({ state: { fullPicture: true }, version: 0 }));
  });
});

async function openFloat(page: Page) {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open 01 Float on the steps' }).click();
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible();
  await page.getByRole('treeitem', { name: 'Float' }).click();
  await expect(
    page.getByRole('navigation', { name: 'Pose strip' }).getByRole('button').nth(5).locator('canvas[data-drawn]'),
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
  await expect(page.locator('article img')).toHaveCount(9, { timeout: 90_000 });
  await picture(page, 'home');
  // They come with the demo from now on, so that the cards have theirs at the first start.
  const folder = join(import.meta.dirname, '../../demo/pictures');
  await mkdir(folder, { recursive: true });
  const { shots } = await (await page.request.get('/api/shots?count=500')).json();
  for (const { id, name } of shots as { id: string; name: string }[]) {
    const taken = await (await page.request.get(`/api/shots/${id}/picture`)).body();
    await writeFile(join(folder, `${name.toLowerCase().replaceAll(' ', '-')}.webp`), taken);
  }
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
  await page.keyboard.press('Alt+w');
  await page.keyboard.press('Alt+d');
  await page.keyboard.press('Alt+v');
  await page.keyboard.press('e');
  await page.getByLabel('Value of the picked key, metres').fill('0.9');
  await page.getByLabel('Value of the picked key, metres').press('Enter');
  await toFrame(page, 0);
  await picture(page, 'curves');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
});

test('checks', async ({ page }) => {
  await keyedBall(page, 'A beginner’s bounce', [
    [1, 1.2],
    [13, 0.204],
    [25, 1.17],
    [37, 0.204],
    [49, 1.14],
    [61, 0.204],
  ]);
  await page.getByRole('tab', { name: /^checks/ }).click();
  const eased = page.getByRole('region', { name: 'Eased landing', exact: true });
  await eased.getByRole('listitem').nth(1).getByRole('button').first().click();
  await eased.getByRole('button', { name: /^Eased landing/ }).click();
  const strip = page.getByRole('navigation', { name: 'Pose strip' });
  await expect(strip.locator('[aria-current] canvas[data-drawn]')).toBeVisible({ timeout: 60_000 });
  await page.mouse.move(380, 20);
  await toFrame(page, 0);
  await picture(page, 'checks');
});

test('kits', async ({ page }) => {
  await openFloat(page);
  await toFrame(page, 7);
  await page.getByRole('tab', { name: 'kits' }).click();
  await page
    .getByRole('list', { name: 'Recipes' })
    .getByRole('button', { name: /^Bounce/ })
    .click();
  await page.getByLabel('material').selectOption('rubber');
  await page.getByRole('button', { name: 'onion skin' }).click();
  await page.mouse.move(380, 20);
  await toFrame(page, 0);
  await picture(page, 'kits');
});

test('bounce table', async ({ page }) => {
  await openFloat(page);
  await toFrame(page, 6);
  await page.getByRole('tab', { name: 'bounces' }).click();
  await toFrame(page, 0);
  await picture(page, 'bounces');
});

test('formula', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Open 05 Pile driver' }).click();
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible();
  await page.getByRole('treeitem', { name: 'Lantern hanger' }).click();
  await page.keyboard.press('Shift+G');
  await page.getByRole('tab', { name: 'formula' }).click();
  await page.locator('body').focus();
  await toFrame(page, 3);
  const strip = page.getByRole('navigation', { name: 'Pose strip' });
  await expect(strip.getByRole('button').nth(3).locator('canvas[data-drawn]')).toBeVisible({ timeout: 60_000 });
  await picture(page, 'formula');
});

async function openShotCalled(page: Page, name: string) {
  await page.goto('/');
  await page.getByRole('link', { name: `Open ${name}` }).click();
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible();
}

test('posing', async ({ page }) => {
  await openShotCalled(page, '00 Practice floor');
  await page.getByRole('treeitem', { name: 'Porter' }).click();
  await page.keyboard.press('v');
  await page.keyboard.press('Alt+0');
  const book = page.getByRole('list', { name: 'Pose book' });
  await expect(book.locator('img')).toHaveCount(9, { timeout: 90_000 });
  await page.getByRole('button', { name: 'Put Contact on' }).click();
  await page.getByRole('treeitem', { name: 'arm L', exact: true }).click();
  await page.keyboard.press('Alt+Shift+b');
  await toFrame(page, 0);
  await picture(page, 'posing');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
});

test('rigs', async ({ page }) => {
  await page.goto('/rigs');
  await expect(page.locator('article img')).toHaveCount(12, { timeout: 90_000 });
  await picture(page, 'rigs');
});

test('walk', async ({ page }) => {
  await openShotCalled(page, '02 Porter crosses');
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.keyboard.press('v');
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('list', { name: 'Clips' }).getByRole('button', { name: /^Walk/ }).click();
  await page.getByRole('tab', { name: 'cycle' }).click();
  await page.keyboard.press('Alt+Shift+f');
  await page.keyboard.press('Alt+Shift+o');
  const strip = page.getByRole('navigation', { name: 'Pose strip' });
  await expect(strip.getByRole('button').nth(5).locator('canvas[data-drawn]')).toBeAttached({ timeout: 90_000 });
  await toFrame(page, 0);
  await picture(page, 'walk');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
});

test('gait', async ({ page }) => {
  await openShotCalled(page, '03 Goat on the wall');
  await page.getByRole('treeitem', { name: 'Goat', exact: true }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: /^Bound/ }).click();
  await page.getByRole('tab', { name: 'cycle' }).click();
  await page.getByRole('tab', { name: 'kits' }).click();
  await page.getByRole('list', { name: 'Recipes' }).getByRole('button', { name: /^Gait/ }).click();
  await page.getByLabel('stride').fill('88');
  await page.getByLabel('stride').press('Tab');
  await page.getByRole('button', { name: 'onion skin' }).click();
  await page.mouse.move(380, 20);
  await toFrame(page, 1);
  const strip = page.getByRole('navigation', { name: 'Pose strip' });
  await expect(strip.getByRole('button').nth(4).locator('canvas[data-drawn]')).toBeAttached({ timeout: 90_000 });
  await toFrame(page, 0);
  await picture(page, 'gait');
});

test('cast', async ({ page }) => {
  await openFloat(page);
  await toFrame(page, 6);
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Cast' }).click();
  await page.getByRole('tab', { name: 'material' }).click();
  await page.getByRole('treeitem', { name: 'Harbour set' }).click();
  await page.keyboard.press('Shift+h');
  await page.getByRole('treeitem', { name: 'Steps' }).click();
  await expect(page.getByRole('button', { name: 'quay flags' })).toHaveAttribute('aria-pressed', 'true');
  await picture(page, 'cast');
});

test('hand on', async ({ page }) => {
  await openShotCalled(page, '03 Goat on the wall');
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Hand on' }).click();
  await toFrame(page, 10);
  await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'hand on', exact: true }).click(),
  ]);
  await page.getByRole('button', { name: 'play it in the playground' }).click();
  const difference = page.getByRole('region', { name: 'Difference' });
  await expect(difference.getByRole('status')).toContainText('mm apart at most', { timeout: 60_000 });
  // It has answered for all frames; now it shows the one the stage is at.
  await page.keyboard.press('ArrowRight');
  await toFrame(page, 0);
  await picture(page, 'hand-on');
});

test('rigging', async ({ page }) => {
  await page.goto('/rigs/gull/1/build');
  await expect(page.getByRole('heading', { name: 'Gull', level: 1 })).toBeVisible();
  await page.getByRole('button', { name: 'all', exact: true }).click();
  await page.getByRole('button', { name: 'chest trunk' }).click();
  await toFrame(page, 0);
  await picture(page, 'rigging');
});

test('mix', async ({ page }) => {
  await openShotCalled(page, '03 Goat on the wall');
  await page.getByRole('tab', { name: 'mix' }).click();
  // A picture before has left a clip at work.
  await expect(page.getByRole('region', { name: 'Mix' })).toBeVisible();
  const layBy = page.getByRole('button', { name: 'lay it by' });
  if ((await layBy.count()) > 0) await layBy.click();
  await page.getByRole('button', { name: /^Bound, frames/ }).click();
  await page.keyboard.press('Shift+G');
  await page.getByRole('button', { name: 'onion skin' }).click();
  await toFrame(page, 2);
  const strip = page.getByRole('navigation', { name: 'Pose strip' });
  const drawn = strip.locator('canvas[data-drawn]');
  await expect.poll(() => drawn.count(), { timeout: 90_000 }).toBeGreaterThan(6);
  await picture(page, 'mix');
});

test('company', async ({ page }) => {
  await openShotCalled(page, '00 Practice floor');
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.getByRole('tab', { name: 'mix' }).click();
  await page.getByRole('tab', { name: 'company' }).click();
  const beside = page.getByRole('region', { name: 'Beside the stage' });
  await beside.getByLabel('Tried over').selectOption({ label: 'over Stand' });
  await beside.getByRole('button', { name: 'try' }).click();
  await page.keyboard.press('ArrowUp');
  await expect(beside.getByRole('status')).toContainText('Stroll');
  await page.keyboard.press('s');
  await expect(beside.getByRole('status')).toContainText('Hail');
  // Up with the hand before the picture is taken.
  const begun = Number(await page.getByTestId('frame').textContent());
  await expect.poll(async () => Number(await page.getByTestId('frame').textContent())).toBeGreaterThan(begun + 22);
  await page.keyboard.press('Shift+G');
  await picture(page, 'company');
  await page.keyboard.press('Escape');
});

test('plan', async ({ page }) => {
  await openShotCalled(page, '04 Heave the sack');
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Plan' }).click();
  await expect(page.getByLabel('Panels of the board').getByRole('button', { name: /^Panel 6/ })).toBeVisible();
  await toFrame(page, 7);
  await picture(page, 'plan');
});

test('review', async ({ page }) => {
  await openShotCalled(page, '04 Heave the sack');
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Review' }).click();
  const beside = page.getByRole('region', { name: 'Beside the stage' });
  await beside.getByRole('button', { name: 'all', exact: true }).click();
  // The first note, with what was drawn for it.
  await beside.getByText('He must go back').click();
  await toFrame(page, 0);
  await picture(page, 'review');
});
