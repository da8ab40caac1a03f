import { bounce, bringIn, framesOf, goTo, member, newShot, openPractice, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** What is shown before it is done: kits, fixes, changes of time, deformers, feet. All lie on one table, and are kept or left there. */

const shown = (page: Page) => page.getByRole('region', { name: 'Shown, not made' });

test('a change of time from the card is shown with its numbers; left it is gone, kept it is one step', async ({
  page,
}) => {
  const { id, path } = await bounce(page, 'Shown times');
  await page.keyboard.press('r');
  await page.getByRole('dialog', { name: 'Retime' }).getByRole('button', { name: '×2' }).click();
  await expect(shown(page)).toContainText('Scale time');
  await expect(shown(page)).toContainText(/keys? moves?/);
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);
  await page.keyboard.press('Escape');
  await expect(shown(page)).toHaveCount(0);
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);

  if ((await page.getByRole('dialog', { name: 'Retime' }).count()) === 0) await page.keyboard.press('r');
  await page.getByRole('dialog', { name: 'Retime' }).getByRole('button', { name: 'first', exact: true }).click();
  await page.getByRole('dialog', { name: 'Retime' }).getByRole('button', { name: '×2' }).click();
  await page.keyboard.press('Enter');
  await expect(shown(page)).toHaveCount(0);
  expect(await framesOf(page, id, path)).toEqual([1, 25, 49]);
  await page.keyboard.press('Control+z');
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);
});

test('a fix is shown before it is made, and another trial waits until it has gone', async ({ page }) => {
  const { id, path } = await bounce(page, 'Shown fix', [
    [1, 2],
    [13, 0.2],
    [21, 1],
    [29, 0.2],
  ]);
  const before = await saved(page, id);
  await page.getByRole('tab', { name: /^checks/ }).click();
  const eased = page.getByRole('region', { name: 'Eased landing' });
  await eased.getByRole('button', { name: 'sharp contact' }).first().click();
  await expect(shown(page)).toContainText('Sharp contact: Ball · shown, not made');
  await expect(shown(page)).toContainText(/\d keys? changes?, on one channel/);
  // The checks look at what is shown: one of the two is gone.
  await expect(eased.getByRole('listitem')).toHaveCount(1);
  expect(await saved(page, id)).toEqual(before);
  // Somebody else's trial does not take its place.
  await page.getByRole('tab', { name: /^kits/ }).click();
  await page.getByRole('button', { name: /^Settle/ }).click();
  await expect(page.getByText('“Sharp contact: Ball” is shown and not made: keep it or leave it first.')).toBeVisible();
  await expect(shown(page)).toContainText('Sharp contact');
  await page.keyboard.press('Enter');
  expect((await saved(page, id)).curves[path].keys[1].joined).toBe(false);
  await page.keyboard.press('Control+z');
  expect((await saved(page, id)).curves).toEqual(before.curves);
});

test('a deformer is shown at an amount that can be seen, and begins with the one it is kept at', async ({ page }) => {
  const id = await newShot(page, 'Shown deformer');
  await bringIn(page, 'ball');
  await page.getByRole('button', { name: 'Add a deformer' }).click();
  await page.getByRole('menuitem', { name: /^Squash/ }).click();
  const length = shown(page).getByLabel('length', { exact: true });
  await expect(length).toHaveValue('0.70');
  await length.click();
  await page.keyboard.type('0.5');
  await page.keyboard.press('Enter');
  expect(Object.keys(member(await saved(page, id), 'ball').values).some((c) => c.includes('deform'))).toBe(false);
  await shown(page).getByRole('button', { name: 'keep' }).click();
  const { values } = member(await saved(page, id), 'ball');
  expect(Object.entries(values).find(([c]) => c.endsWith('.length'))?.[1]).toBe(0.5);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('region', { name: 'squash', exact: true })).toHaveCount(0);
});

test('feet are held only on a whole cycle, keep their roll, and the stride they measure is offered', async ({
  page,
}) => {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'Porter' }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'new clip' }).click();
  const put = async (name: string, frame: number) => {
    await page.getByRole('tab', { name: 'poses' }).click();
    await goTo(page, frame);
    await page.getByRole('button', { name: `Put ${name} on`, exact: true }).click();
    await page.keyboard.press('k');
    await page.getByRole('tab', { name: 'clips' }).click();
  };
  await put('Contact', 1);
  await put('Down', 4);
  await page.getByRole('button', { name: 'hold the feet to the ground' }).click();
  await expect(
    page.getByText('No foot has a key between frames 4 and 13: passing at 7 and up at 10 are missing.'),
  ).toBeVisible();
  await expect(shown(page)).toHaveCount(0);
  await put('Passing', 7);
  await put('Up', 10);
  // A travel of one's own, far from what the feet do.
  await page.getByLabel('travel a cycle').click();
  await page.keyboard.type('0.9');
  await page.keyboard.press('Enter');
  const before = await saved(page, id);
  await page.getByRole('button', { name: 'hold the feet to the ground' }).click();
  await expect(shown(page)).toContainText(/At most \d+ mm in move z of foot [LR] at \d+/);
  await expect(shown(page).getByRole('radio', { name: /1\.\d+ m, as the feet go/ })).toBeChecked();
  await shown(page).getByRole('radio', { name: '0.900 m, as the clip says' }).check();
  await expect(shown(page)).toContainText('the clip travels 0.900 m a cycle, as it says');
  await shown(page)
    .getByRole('radio', { name: /as the feet go/ })
    .check();
  expect(await saved(page, id)).toEqual(before);
  await shown(page).getByRole('button', { name: 'keep' }).click();
  const after = await saved(page, id);
  for (const foot of ['L', 'R'])
    for (const axis of ['x', 'y', 'z']) {
      const at = `porter-foot${foot}.turn.${axis}`;
      const then = new Map(after.curves[at].keys.map((k) => [k.frame, k.value]));
      for (const key of before.curves[at].keys) expect(then.get(key.frame)).toBeCloseTo(key.value, 6);
    }
});
