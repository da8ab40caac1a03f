import AxeBuilder from '@axe-core/playwright';
import { channel, findCommand, goTo, openPractice, pointAt, saved, setChannel } from '../desk.ts';
import { expect, test } from '../test.ts';

test('a hand is dragged on the stage and the arm follows; its pose goes to the other side and into the book', async ({
  page,
}) => {
  const id = await openPractice(page);
  const hand = await pointAt(page, 'Porter: hand L');
  await page.mouse.down();
  await page.mouse.move(hand.x + 30, hand.y - 50, { steps: 4 });
  await page.mouse.move(hand.x + 50, hand.y - 90, { steps: 4 });
  await page.mouse.up();
  const posed = (await saved(page, id)).members['porter-handL'].values;
  expect(posed['move.y']).toBeGreaterThan(0.1);
  await page.keyboard.press('Shift+M');
  const image = (await saved(page, id)).members;
  expect(image['porter-handR'].values['move.y']).toBe(posed['move.y']);
  expect(image['porter-handR'].values['move.x']).toBe(-posed['move.x']);
  expect(image['porter-handL'].values['move.y']).toBe(0);

  await page.keyboard.press('Alt+Shift+k');
  const name = `Up it goes ${Date.now()}`;
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Tags, with commas between').fill('lift, test');
  await page.getByRole('button', { name: 'keep it' }).click();
  await expect(page.getByRole('list', { name: 'Pose book' }).getByText(name)).toBeVisible();
  await page.getByLabel('Find poses').fill(name);
  await expect(page.getByRole('list', { name: 'Pose book' }).getByRole('listitem')).toHaveCount(1);

  await page.getByRole('treeitem', { name: 'Porter' }).click();
  await page.keyboard.press('Shift+Backspace');
  expect((await saved(page, id)).members['porter-handR'].values['move.y']).toBe(0);
  await page.getByRole('button', { name: `Put ${name} on`, exact: true }).click();
  expect((await saved(page, id)).members['porter-handR'].values['move.y']).toBeCloseTo(posed['move.y'], 12);
  const slider = page.getByLabel(`How much of ${name}`);
  await slider.fill('75');
  await slider.fill('50');
  await slider.press('Tab');
  const half = (await saved(page, id)).members['porter-handR'].values['move.y'];
  expect(half).toBeCloseTo(posed['move.y'] / 2, 6);
  // However far it was blended, one step takes it back.
  await page.keyboard.press('Control+z');
  expect((await saved(page, id)).members['porter-handR'].values['move.y']).toBe(0);
  // Dropped on the strip it is keyed on the frame one is at.
  await goTo(page, 13);
  const strip = page.getByRole('navigation', { name: 'Pose strip' });
  await page.getByRole('button', { name: `Put ${name} on`, exact: true }).dragTo(strip);
  const keys = (await saved(page, id)).curves['porter-handR.move.y'].keys;
  expect(keys.map((k) => [k.frame, k.value])).toEqual([[13, posed['move.y']]]);
  // What the pointer rests on says what it is, in a bubble beside everything else: that is not looked at here.
  await page.mouse.move(640, 5);
  await expect(page.getByRole('tooltip')).toHaveCount(0);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
});

test('a foot is planted, and an arm goes over to its joints and back without a jump', async ({ page }) => {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'leg L', exact: true }).click();
  await page.keyboard.press('Shift+T');
  const planted = (await saved(page, id)).members as unknown as Record<string, { holds: { by: { is: string } }[] }>;
  expect(planted['porter-footL'].holds[0].by.is).toBe('stage');
  await expect(page.getByText('planted').first()).toBeVisible();

  await goTo(page, 9);
  await page.getByRole('treeitem', { name: 'arm R', exact: true }).click();
  await page.keyboard.press('Shift+Q');
  const after = (await saved(page, id)).members;
  // All of the set is picked: its one limb has gone over.
  expect(after['porter-handR'].values.reach).toBe(0);
  await expect(page.getByRole('region', { name: 'Beside the stage' }).getByRole('heading', { level: 2 })).toHaveText(
    'arm R',
  );
  await page.keyboard.press('Shift+Q');
  const back = (await saved(page, id)).members;
  expect(back['porter-handR'].values.reach).toBe(1);
  expect(Math.abs(back['porter-handR'].values['move.y'] ?? 0)).toBeLessThan(1e-6);
});

test('a newer version of a rig is taken: what no longer fits is listed, put aside and brought back', async ({
  page,
}) => {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'look, cap' }).click();
  await setChannel(page, 'cap', 12);
  await page.keyboard.press('k');
  await page.getByRole('treeitem', { name: 'Porter' }).click();
  await expect(page.getByText('Version 2 is there.')).toBeVisible();
  await page.getByRole('button', { name: 'take version 2…' }).click();
  await expect(page.getByRole('region', { name: /put aside/ })).toContainText('face · cap, 1 key');
  await page.getByRole('button', { name: 'take version 2', exact: true }).click();
  const next = (await saved(page, id)) as unknown as {
    aside: Record<string, unknown>;
    members: Record<string, { shape: unknown }>;
  };
  expect(next.members.porter.shape).toEqual({ rig: 'porter', version: 2 });
  expect(Object.keys(next.aside)).toHaveLength(1);
  await page.getByRole('button', { name: 'Bring face · cap back onto another channel' }).click();
  await page.getByRole('combobox', { name: 'onto' }).selectOption({ label: 'face · jaw' });
  await page.getByRole('button', { name: 'bring back' }).click();
  const placed = (await saved(page, id)) as unknown as { aside: object; curves: object };
  expect(placed.aside).toEqual({});
  expect(Object.keys(placed.curves)).toContain('porter-face.jaw');
});

test.describe('with pictures', () => {
  test.use({ sketch: false });

  test('the library shows every rig with its versions and uses; rigs are brought in, and drawn where they are computed', async ({
    page,
  }) => {
    await page.goto('/rigs');
    const porter = page.getByRole('article', { name: 'Porter' });
    await expect(porter).toContainText('version 2');
    await expect(porter).toContainText('00 Practice floor');
    // What other tests bring in stands there too.
    for (const name of [
      'Ball stand-in',
      'Boathook',
      'Box stand-in',
      'Cone stand-in',
      'Glove',
      'Goat',
      'Lantern',
      'Moth',
      'Sack',
    ])
      await expect(page.getByRole('article', { name, exact: true })).toBeVisible();
    await expect(porter.locator('img')).toBeVisible();
    expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);

    await openPractice(page);
    await page.keyboard.press('Alt+Shift+r');
    await page.getByRole('button', { name: 'Bring in Moth', exact: true }).click();
    await expect(page.getByRole('treeitem', { name: 'Moth', exact: true })).toBeVisible();
    await page.getByRole('treeitem', { name: 'moth', exact: true }).click();
    await setChannel(page, 'flap', 0.8);
    await expect(channel(page, 'flap')).toHaveValue('0.800');
    await findCommand(page, 'hold the drawn rigs');
    const note = page.getByText(/vertices are drawn within/);
    await expect(note).toBeVisible();
    const [, count, apart] = /(\d+) vertices are drawn within ([\d.]+) mm/.exec((await note.textContent()) ?? '')!;
    expect(Number(count)).toBeGreaterThan(10_000);
    expect(Number(apart)).toBeLessThan(0.1);
  });
});
