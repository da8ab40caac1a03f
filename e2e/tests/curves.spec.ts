import { bounce, framesOf, goTo, saved, setChannel, type } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

const curves = (page: Page) => page.getByRole('list', { name: 'Curves shown' });

/** A ball that bounces twice, on two channels, with its curves shown. */
async function twoBounces(page: Page, name: string) {
  const made = await bounce(page, name, [
    [1, 4],
    [9, 0],
    [17, 2],
    [23, 0],
    [29, 1],
  ]);
  await page.keyboard.press('Shift+C');
  return made;
}

test('tension, continuity and bias are set for one key, and kinds for every key of what is picked', async ({
  page,
}) => {
  const { id, path } = await twoBounces(page, 'Tuned');
  await goTo(page, 9);
  await page.keyboard.press('e');
  await type(page, 'continuity', -1);
  const key = async (i: number) => (await saved(page, id)).curves[path].keys[i];
  expect(await key(1)).toMatchObject({
    in: { kind: 'tuned', continuity: -1, tension: 0 },
    out: { kind: 'tuned' },
    joined: false,
  });
  expect((await key(2)).in.kind).toBe('smooth');
  // The first Escape leaves the field, the second picks nothing.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.getByRole('treeitem', { name: 'Ball' }).click();
  await expect(page.getByText('for all 5 keys of this curve')).toBeVisible();
  await page.getByRole('button', { name: 'linear', exact: true }).click();
  const all = (await saved(page, id)).curves[path].keys;
  expect(all.map((k) => k.in.kind)).toEqual(Array(5).fill('linear'));
  await page.keyboard.press('Control+z');
  expect((await key(1)).in.kind).toBe('tuned');
});

test('a landing made sharp by hand is given to the others with two presses', async ({ page }) => {
  const { id, path } = await twoBounces(page, 'Shapes');
  await goTo(page, 9);
  await page.keyboard.press('e');
  await page.keyboard.press('Alt+l');
  await page.keyboard.press('Alt+c');
  await goTo(page, 23);
  await page.keyboard.press('e');
  await page.keyboard.press('Alt+g');
  const keys = (await saved(page, id)).curves[path].keys;
  expect(keys.map((k) => k.in.kind)).toEqual(['smooth', 'linear', 'smooth', 'linear', 'smooth']);
});

test('values of many keys are scaled, offset, flattened and smoothed in numbers', async ({ page }) => {
  const { id, path } = await twoBounces(page, 'Values');
  const values = async () => (await saved(page, id)).curves[path].keys.map((k) => k.value);
  await page.getByTitle(/Scaled and flattened about/).click();
  await page.getByRole('menuitemcheckbox', { name: /about zero/ }).click();
  await type(page, 'Scale values by percent', 50);
  expect(await values()).toEqual([2, 0, 1, 0, 0.5]);
  await type(page, 'Offset values, metres', 0.25);
  expect(await values()).toEqual([2.25, 0.25, 1.25, 0.25, 0.75]);
  await goTo(page, 17);
  await page.keyboard.press('e');
  await page.getByRole('button', { name: 'smooth the values' }).click();
  expect((await values())[2]).toBeCloseTo(0.75, 9);
});

test('thinning says how many keys go and how much that changes; still curves go with one press', async ({ page }) => {
  const { id, path } = await twoBounces(page, 'Thin');
  for (const frame of [4, 12, 20]) {
    await goTo(page, frame);
    await page.getByRole('button', { name: /move y is animated; key move y here/ }).click();
  }
  expect(await framesOf(page, id, path)).toHaveLength(8);
  await setChannel(page, 'move x', 0);
  await page.getByRole('button', { name: /move x is constant; key/ }).click();
  await page.getByRole('button', { name: 'thin…' }).click();
  await type(page, 'Tolerance of moves, metres', 0.5);
  const card = page.getByRole('dialog', { name: /Thin/ });
  await expect(card.getByRole('status')).toContainText(/\d of 9 keys go\. The largest change is \d+\.\d\d mm/);
  await card.getByRole('button', { name: 'thin', exact: true }).click();
  expect((await framesOf(page, id, path)).length).toBeLessThan(8);
  await page.getByRole('button', { name: 'drop still ones' }).click();
  expect(Object.keys((await saved(page, id)).curves)).toEqual([path]);
});

test('curves are isolated, pinned, hidden, brought to one height, and compared with a version', async ({ page }) => {
  const { id } = await twoBounces(page, 'Seeing curves');
  await page.keyboard.press('a');
  await goTo(page, 1);
  await setChannel(page, 'move x', 3);
  await page.keyboard.press('a');
  await expect(curves(page).getByRole('listitem')).toHaveCount(2);
  await page.getByRole('button', { name: 'See only move y' }).click();
  await expect(curves(page).getByRole('listitem')).toHaveCount(1);
  await page.getByRole('button', { name: 'See all curves again' }).click();
  await page.getByRole('button', { name: 'Hide move x' }).click();
  await expect(page.getByText('of this curve')).toBeVisible();
  await page.getByRole('button', { name: 'Show move x' }).click();
  await page.getByRole('button', { name: /Keep move y in view/ }).click();
  await page.keyboard.press('Alt+n');
  await expect(page.getByRole('button', { name: 'one height' })).toHaveAttribute('aria-pressed', 'true');

  const canvas = page.getByTestId('curves');
  const look = () => canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL());
  await page.getByRole('button', { name: 'as it was' }).click();
  await page.getByRole('menuitem', { name: /choose a version/ }).click();
  await page.getByLabel('Name of the version').fill('Before the wind');
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  await page.getByRole('button', { name: /^Before the wind/ }).click();
  // What was chosen there goes on where one animates.
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Animate' }).click();
  await page.getByRole('tab', { name: 'curves' }).click();
  await expect(page.getByRole('button', { name: 'as Before the wind' })).toBeVisible();
  await goTo(page, 9);
  await page.keyboard.press('e');
  await type(page, 'Value of the picked key, metres', 1);
  await saved(page, id);
  // What the version had is drawn behind, and no longer once that is taken away.
  const compared = await look();
  await page.getByRole('button', { name: 'as Before the wind' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'not at all' }).click();
  await expect.poll(look).not.toBe(compared);
});
