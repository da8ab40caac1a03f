import { bounce, dragMouse, framesOf, goTo, saved } from '../desk.ts';
import { expect, test } from '../test.ts';

test('the chart lays the frames between two keys out, and its ticks are dragged and stepped', async ({ page }) => {
  const { id, path } = await bounce(page, 'Chart');
  await goTo(page, 5);
  const chart = page.getByRole('region', { name: 'Spacing' });
  await expect(chart).toContainText('1 → 13');
  const tick = (frame: number) => chart.getByRole('slider', { name: `Frame ${frame} of the chart`, exact: true });

  await chart.getByRole('button', { name: 'slow out' }).click();
  const keys = async () => (await saved(page, id)).curves[path].keys;
  expect((await keys()).slice(0, 2).map((k) => [k.out.kind, k.in.kind])).toEqual([
    ['flat', 'smooth'],
    ['smooth', 'linear'],
  ]);
  // 2t² - t³ at a half.
  await expect(tick(7)).toHaveAttribute('aria-valuenow', '38');

  await chart.getByRole('button', { name: 'halves' }).click();
  expect(await framesOf(page, id, path)).toEqual([1, 2, 3, 4, 5, 13, 25]);
  await expect(tick(2)).toHaveAttribute('aria-valuenow', '50');
  await expect(tick(4)).toHaveAttribute('aria-valuenow', '87');
  await chart.getByRole('button', { name: 'even' }).click();
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);
  await expect(tick(4)).toHaveAttribute('aria-valuenow', '25');

  // Dragged from a quarter of the way down to near the end; then stepped with the arrow keys.
  const from = (await tick(4).boundingBox())!;
  const to = (await tick(12).boundingBox())!;
  const [x, y0, y1] = [from.x + 10, from.y + from.height / 2, to.y + to.height / 2];
  await dragMouse(page, { x, y: y0 }, { x, y: y1 });
  expect((await keys()).map((k) => [k.frame, k.role])).toEqual([
    [1, 'key'],
    [4, 'breakdown'],
    [13, 'key'],
    [25, 'key'],
  ]);
  const before = Number(await tick(4).getAttribute('aria-valuenow'));
  expect(before).toBeGreaterThan(80);
  await tick(4).press('ArrowUp');
  await expect(tick(4)).toHaveAttribute('aria-valuenow', String(before - 1));
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await framesOf(page, id, path)).toEqual([1, 13, 25]);
});

test('a breakdown is placed between and past its neighbours with the slider, one step to take back', async ({
  page,
}) => {
  const { id, path } = await bounce(page, 'Between');
  await goTo(page, 19);
  const slider = page.getByRole('slider', { name: /Breakdown: percent/ });
  // Come to by the keyboard it has End; else that is time's.
  await page.keyboard.press('Tab');
  await slider.focus();
  await page.keyboard.press('End');
  const key = async () => (await saved(page, id)).curves[path].keys[2];
  expect(await key()).toMatchObject({ frame: 19, role: 'breakdown' });
  // A quarter past the key at 25: 0.2 + 0.8 · 1.25.
  expect((await key()).value).toBeCloseTo(1.2, 6);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('u');
  expect((await key()).value).toBeCloseTo(0.6, 6);
});

test('a bead without a key slides along its arc in the stage; a key goes where it is taken', async ({ page }) => {
  const { id, path } = await bounce(page, 'Beads');
  await goTo(page, 1);
  await page.keyboard.press('1');
  const stage = page.getByTestId('stage');
  const box = (await stage.boundingBox())!;
  // From the front the arc is a straight line up and down the middle; somewhere on it there is a bead.
  const note = page.getByTestId('bead-note');
  const titled = async (kind: RegExp) => {
    for (let y = box.y + 20; y < box.y + box.height - 20; y += 5) {
      for (const dx of [0, -4, 4]) {
        const x = box.x + box.width / 2 + dx;
        await page.mouse.move(x, y);
        const title = await note.evaluateAll(([found]) => found?.textContent ?? '');
        if (kind.test(title)) return { x, y, title };
      }
    }
    throw new Error('No bead was found on the stage.');
  };
  const bead = await titled(/drag it along the arc/);
  const frame = Number(/frame (\d+)/.exec(bead.title)?.[1]);
  // Its spacing is told as well.
  expect(bead.title).toMatch(/ from the last · .* to the next/);
  await dragMouse(page, bead, { x: bead.x, y: bead.y + 24 });
  const keys = (await saved(page, id)).curves[path].keys;
  expect(keys.find((k) => k.frame === frame)?.role).toBe('breakdown');
  expect(keys).toHaveLength(4);
});
