import { bringIn, goTo, keyedBall, newShot, saved, setChannel, timing } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** A bounce as a beginner keys it: eased at the ground, each as long as the last and nearly as high, 4 mm above the floor. */
const BAD: [number, number][] = [
  [1, 1.2],
  [13, 0.204],
  [25, 1.17],
  [37, 0.204],
  [49, 1.14],
  [61, 0.204],
];

const group = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
const items = (page: Page, name: string) => group(page, name).getByRole('listitem');
const looked = (page: Page) => expect(page.getByText(/(findings?|Nothing found), in \d+ ms/)).toBeVisible();

test('a bad bounce is told at its frames with its numbers, and its fixes make a good one', async ({ page }) => {
  const { id } = await keyedBall(page, 'Bad bounce', BAD);
  await page.getByRole('tab', { name: /^checks/ }).click();
  await looked(page);
  await expect(items(page, 'Eased landing')).toHaveCount(3);
  await expect(items(page, 'Eased landing').first()).toContainText('13');
  await expect(items(page, 'Eased landing').first()).toContainText('with 0 % of the speed');
  await expect(items(page, 'Bounces of equal time')).toHaveCount(2);
  await expect(items(page, 'Height not lost')).toHaveCount(2);
  await expect(items(page, 'Gap or dip at contact').first()).toContainText(
    'Float floats 4.0 mm above the floor where it lands, at 13',
  );

  // Why it matters is a press away.
  await group(page, 'Eased landing')
    .getByRole('button', { name: /^Eased landing/ })
    .click();
  await expect(group(page, 'Eased landing')).toContainText('A falling thing is fastest when it hits the ground.');

  const before = await saved(page, id);
  for (const name of ['Gap or dip at contact', 'Eased landing', 'Height not lost']) {
    await group(page, name).getByRole('button', { name: 'fix all' }).click();
    // Shown, and looked at by the checks, before it is made.
    await expect(group(page, name)).toBeHidden();
    await page.keyboard.press('Enter');
  }
  // What loses height loses time as well: under one gravity the two go together.
  await expect(group(page, 'Bounces of equal time')).toBeHidden();
  await expect(page.getByText(/^Nothing found, in/)).toBeVisible();
  await page.getByRole('tab', { name: 'bounces' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'touches' })).toHaveCount(3);
  await expect(page.getByRole('row').filter({ hasText: 'mm' })).toHaveCount(0);
  // Each fix was one step: three undone, and the bounce is as it was.
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await saved(page, id)).curves).toEqual(before.curves);
});

test('a finding is gone to, marked in the stage, fixed alone, ignored, and watched again', async ({ page }) => {
  await keyedBall(page, 'One by one', BAD);
  await page.getByRole('tab', { name: /^checks/ }).click();
  await looked(page);
  await items(page, 'Eased landing').nth(1).getByRole('button').first().click();
  await expect(page.getByTestId('frame')).toHaveText('37');
  await expect(page.getByTestId('finding-marks').getByRole('button')).toContainText('eased landing');
  await items(page, 'Eased landing').nth(1).getByRole('button', { name: 'sharp contact' }).click();
  await expect(items(page, 'Eased landing')).toHaveCount(2);
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  await items(page, 'Eased landing').first().getByRole('button', { name: 'ignore here' }).click();
  await expect(items(page, 'Eased landing')).toHaveCount(1);
  await page.getByRole('button', { name: '1 ignored' }).click();
  await page.getByRole('button', { name: 'watch again' }).click();
  await expect(items(page, 'Eased landing')).toHaveCount(2);
  // By the keyboard as well: on to the next finding, and mend it.
  await page.keyboard.press('j');
  await page.keyboard.press('Alt+Shift+J');
  await page.keyboard.press('Enter');
  await expect(items(page, 'Eased landing')).toHaveCount(1);
});

test('a shot can allow more than is usual', async ({ page }) => {
  await keyedBall(page, 'Tolerant', BAD);
  await page.getByRole('tab', { name: /^checks/ }).click();
  await looked(page);
  await page.getByRole('button', { name: 'Gap or dip at contact' }).click();
  const field = page.getByLabel('Tolerance of Gap or dip at contact', { exact: true }).first();
  await field.fill('5');
  await field.press('Enter');
  await expect(group(page, 'Gap or dip at contact')).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(items(page, 'Gap or dip at contact')).toHaveCount(3);
});

test('heights and frames typed into the bounce table move the keys', async ({ page }) => {
  const { id, path } = await keyedBall(page, 'Table', BAD);
  await page.getByRole('tab', { name: 'bounces' }).click();
  const height = page.getByLabel('Height of the bounce from 13, metres');
  await height.fill('0.5');
  await height.press('Enter');
  await expect
    .poll(async () => (await saved(page, id)).curves[path].keys.find((k) => k.frame === 25)?.value)
    .toBeCloseTo(0.704, 6);
  const frames = page.getByLabel('Frames of the bounce from 13', { exact: true });
  await frames.fill('18');
  await frames.press('Enter');
  await expect
    .poll(async () => (await saved(page, id)).curves[path].keys.map((k) => k.frame))
    .toEqual([1, 13, 22, 31, 43, 55]);
  await page.getByRole('button', { name: 'Go to the contact at 31' }).click();
  await expect(page.getByTestId('frame')).toHaveText('31');
});

test('a kit is seen before it is written, adjusted after, and leaves a touched key alone', async ({ page }) => {
  const id = await newShot(page, 'Kits');
  await bringIn(page, 'ball');
  await page.getByRole('tab', { name: 'kits' }).click();
  await page.getByRole('button', { name: /^Bounce/ }).click();
  // Shown in the sheet, not in the document.
  await expect(page.getByRole('list', { name: /Rows of the sheet/ })).toContainText('move y');
  expect(Object.keys((await saved(page, id)).curves)).toEqual([]);
  await page.getByRole('button', { name: 'leave', exact: true }).click();
  await expect(page.getByRole('list', { name: /Rows of the sheet/ })).not.toContainText('move y');

  await page.getByRole('button', { name: /^Bounce/ }).click();
  await page.getByLabel('material').selectOption('cork');
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  const first = await saved(page, id);
  const [path] = Object.keys(first.curves);
  const landing = first.curves[path].keys[1];
  expect(landing.value).toBeCloseTo(0.2, 6);

  // A hand moves the second top; then the recipe is made livelier.
  const top = first.curves[path].keys[2];
  await page.getByRole('tab', { name: 'channels' }).click();
  await page.keyboard.press('a');
  await goTo(page, top.frame);
  await setChannel(page, 'move y', 0.9);
  await page.keyboard.press('a');
  await page.getByRole('tab', { name: 'kits' }).click();
  await page
    .getByRole('list', { name: 'Recipes' })
    .getByRole('button', { name: /^Bounce/ })
    .click();
  await page.getByLabel('material').selectOption('rubber');
  await expect(page.getByRole('radio', { name: 'leave 1 key of yours' })).toBeVisible();
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  const kept = (await saved(page, id)).curves[path].keys.find((k) => k.frame === top.frame);
  expect(kept?.value).toBeCloseTo(0.9, 6);
  expect((await saved(page, id)).curves[path].keys.length).toBeGreaterThan(first.curves[path].keys.length);
});

test('deformers are added, keyed and taken away', async ({ page }) => {
  const id = await newShot(page, 'Deformers');
  await bringIn(page, 'ball');
  await page.getByRole('button', { name: 'Add a deformer' }).click();
  await page.getByRole('menuitem', { name: /^Squash/ }).click();
  await page.keyboard.press('Enter');
  await setChannel(page, 'length', 0.6);
  const [ball] = Object.values((await saved(page, id)).members);
  const name = Object.keys(ball.values).find((v) => v.endsWith('.length'))!;
  expect(ball.values[name]).toBeCloseTo(0.6, 6);
  await page.getByRole('button', { name: /^length is constant; key/ }).click();
  expect(Object.keys((await saved(page, id)).curves)).toEqual([`${ball.id}.${name}`]);
  await page.getByRole('button', { name: 'Take squash away' }).click();
  expect((await saved(page, id)).curves).toEqual({});
});

test.describe('with pictures', () => {
  test.use({ sketch: false });

  test('onion skin and arcs can be had in every way they are offered', async ({ page }) => {
    const failures: string[] = [];
    page.on('pageerror', (error) => failures.push(error.message));
    await keyedBall(page, 'Ghosts', BAD);
    await goTo(page, 13);
    const stage = page.locator('canvas[data-testid=stage]');
    const picture = async () => (await stage.screenshot()).toString('base64');
    const without = await picture();
    await page.keyboard.press('Shift+O');
    await expect.poll(picture).not.toBe(without);
    const pick = async (what: string, item: string) => {
      const before = await picture();
      await page.getByRole('button', { name: `How ${what} are drawn` }).click();
      await page.getByRole('menuitemcheckbox', { name: item }).click();
      await expect.poll(picture).not.toBe(before);
    };
    await pick('neighbouring frames', 'as outlines');
    await pick('neighbouring frames', 'frames with keys only');
    await pick('arcs', 'of its top');
    await pick('arcs', '6 frames around now');
    expect(failures).toEqual([]);
    await expect(timing(page)).toBeVisible();
  });
});
