import { bringIn, framesOf, goTo, member, newShot, openDocument, saved, setChannel } from '../desk.ts';
import { expect, test } from '../test.ts';

test('many are turned together about their middle, keyed, and stand where the turn puts them', async ({ page }) => {
  const id = await newShot(page, 'Turn together');
  await bringIn(page, 'box');
  await page.keyboard.press('Control+Shift+d');
  const card = page.getByRole('dialog', { name: /Copies/ });
  await card.getByLabel('How many along x').fill('2');
  await card.getByLabel('How many along x').press('Enter');
  await card.getByLabel('Apart along x, metres').fill('1');
  await card.getByLabel('Apart along x, metres').press('Enter');
  await card.getByRole('button', { name: 'set them out' }).click();
  expect(Object.keys((await saved(page, id)).members)).toHaveLength(2);

  await page.keyboard.press('Control+a');
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'each about its own pivot' }).click();
  await page.getByRole('radio', { name: 'about the middle of all' }).check();
  // Escape closes it, and leaves who is picked.
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByRole('button', { name: 'about the middle of all' }).click();
  await page.getByRole('button', { name: 'Key a turn about y' }).click();
  await expect(page.getByTestId('frame')).toHaveText('9');
  const shot = await saved(page, id);
  for (const one of Object.values(shot.members)) {
    expect(await framesOf(page, id, `${one.id}.orientation`)).toEqual([1, 9]);
    // The pivot is on the middle between the two, half a metre from each.
    expect(Math.abs(shot.curves[`${one.id}.pivot.x`].keys[0].value)).toBeCloseTo(0.5, 6);
  }
  await page.keyboard.press('Control+Alt+Shift+Y');
  expect(await framesOf(page, id, `${Object.keys(shot.members)[0]}.orientation`)).toEqual([1, 9, 17]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect((await saved(page, id)).curves).toEqual({});
});

test('a turn that flips is found and unrolled with one press', async ({ page }) => {
  const id = await newShot(page, 'Flips');
  await bringIn(page, 'box');
  await page.keyboard.press('a');
  for (const [frame, y] of [
    [1, 170],
    [5, -178],
  ]) {
    await goTo(page, frame);
    await setChannel(page, 'turn y', y);
  }
  const path = `${member(await saved(page, id), 'box').id}.turn.y`;
  await expect(page.getByText('The turn flips by 348° between 1 and 5.')).toBeVisible();
  await page.getByRole('button', { name: 'unroll' }).click();
  const [, key] = (await saved(page, id)).curves[path].keys;
  expect((key.value * 180) / Math.PI).toBeCloseTo(182, 6);
  await expect(page.getByText('The turn flips')).toHaveCount(0);
});

test('four views at once, each to be worked in; the camera follows', async ({ page }) => {
  await newShot(page, 'Four views');
  await bringIn(page, 'box');
  await page.keyboard.press('v');
  await page.keyboard.press('4');
  const box = (await page.getByTestId('stage').boundingBox())!;
  const row = page.getByRole('treeitem', { name: 'Box' });
  // The front view is at the lower left: in its middle stands what is framed, and in its corner nothing does.
  const press = async (x: number, y: number) =>
    page.mouse.click(box.x + (box.width / 2) * x, box.y + (box.height / 2) * (1 + y));
  await press(0.04, 0.9);
  await expect(row).toHaveAttribute('aria-selected', 'false');
  await press(0.5, 0.5);
  await expect(row).toHaveAttribute('aria-selected', 'true');

  // It goes three metres aside. Followed, it stays in the middle; not followed, it leaves it.
  await page.keyboard.press('k');
  await goTo(page, 13);
  await setChannel(page, 'move x', 3);
  await page.keyboard.press('k');
  await goTo(page, 1);
  await page.keyboard.press('Shift+F');
  await goTo(page, 13);
  await press(0.04, 0.9);
  await press(0.5, 0.5);
  await expect(row).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Shift+F');
  await goTo(page, 1);
  await press(0.5, 0.5);
  await expect(row).toHaveAttribute('aria-selected', 'false');
});

test('a long shot stays at hand: five hundred objects found, folded, and picked', async ({ page }) => {
  const members: Record<string, unknown> = {};
  const curves: Record<string, unknown> = {};
  const handle = { kind: 'smooth' };
  for (let i = 0; i < 500; i++) {
    const id = `b${i}`;
    members[id] = { id, kind: 'ball', name: `Float ${i + 1}`, parent: null, rank: i, shape: { radius: 0.05 } };
    for (const channel of ['move.x', 'move.y']) {
      const keys = Array.from({ length: 50 }, (_, k) => ({
        frame: 1 + k * 4,
        value: i / 50 + Math.sin(k),
        in: handle,
        out: handle,
        joined: true,
      }));
      curves[`${id}.${channel}`] = { type: 'number', keys };
    }
  }
  const span = { first: 1, last: 200 };
  const document = {
    version: 2,
    id: 'long',
    name: 'Long',
    rate: 24,
    range: span,
    play: span,
    members,
    curves,
    sets: {},
  };
  const id = await openDocument(page, 'Long shot', document);
  const rows = page.getByRole('list', { name: 'Rows of the sheet, 1500 in all' });
  await expect(rows).toBeVisible();
  // Only what is in view is there at all.
  expect(await rows.getByRole('listitem').count()).toBeLessThan(40);
  await page.getByLabel('Find rows').fill('Float 477');
  await expect(page.getByRole('list', { name: 'Rows of the sheet, 3 in all' })).toBeVisible();
  await page.getByRole('button', { name: 'Fold Float 477' }).click();
  await page.getByRole('button', { name: 'Float 477', exact: true }).dblclick();
  await page.keyboard.press('Alt+ArrowRight');
  expect((await framesOf(page, id, 'b476.move.x'))[0]).toBe(2);
  await page.reload();
  await page.getByLabel('Find rows').fill('Float 477');
  await expect(page.getByRole('button', { name: 'Unfold Float 477' })).toBeVisible();
});
