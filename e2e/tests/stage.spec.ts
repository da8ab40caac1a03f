import { bringIn, channel, dragMouse, goTo, member, newShot, saved } from '../desk.ts';
import { expect, test } from '../test.ts';

test('a member is picked by click and by box, and moved by its handle in one step', async ({ page }) => {
  const id = await newShot(page, 'Handles');
  await bringIn(page, 'ball');
  await page.keyboard.press('1');
  await page.keyboard.press('v');
  const stage = (await page.getByTestId('stage').boundingBox())!;
  const middle = { x: stage.x + stage.width / 2, y: stage.y + stage.height / 2 };

  // From the front, x goes to the right: the tip of its handle is a ninth of the picture's height beside the middle.
  const tip = { x: middle.x + stage.height * 0.118, y: middle.y };
  await dragMouse(page, tip, { x: tip.x + 60, y: tip.y - 25 });
  let ball = member(await saved(page, id), 'ball');
  expect(ball.values['move.x']).toBeGreaterThan(0.02);
  expect(ball.values['move.y']).toBeCloseTo(0.2, 6);
  await page.keyboard.press('Control+z');
  ball = member(await saved(page, id), 'ball');
  expect(ball.values['move.x'] ?? 0).toBe(0);

  // A press beside it picks nothing, a press on it picks it, a box round it picks it.
  const heading = page.getByRole('region', { name: 'Beside the stage' }).getByRole('heading', { level: 2 });
  await page.keyboard.press('p');
  await page.mouse.click(stage.x + stage.width * 0.8, stage.y + stage.height * 0.3);
  await expect(heading).toBeHidden();
  await page.mouse.click(middle.x, middle.y);
  await expect(heading).toHaveText('Ball');
  await page.keyboard.press('Escape');
  await expect(heading).toBeHidden();
  await dragMouse(page, { x: middle.x - 150, y: middle.y - 120 }, { x: middle.x + 150, y: middle.y + 120 });
  await expect(heading).toHaveText('Ball');
});

test('turn and size have handles too, and a locked axis is left alone', async ({ page }) => {
  const id = await newShot(page, 'More handles');
  await bringIn(page, 'ball');
  await page.keyboard.press('1');
  await page.keyboard.press('v');
  const stage = (await page.getByTestId('stage').boundingBox())!;
  const middle = { x: stage.x + stage.width / 2, y: stage.y + stage.height / 2 };
  const ring = stage.height * 0.13 * 0.86;

  // Seen from the front without perspective, the ring about z is a circle; a quarter along it turns by a quarter.
  await page.keyboard.press('z');
  await page.keyboard.press('t');
  await page.keyboard.press('Shift+X');
  await page.keyboard.press('Shift+Y');
  await dragMouse(
    page,
    { x: middle.x + ring * Math.SQRT1_2, y: middle.y - ring * Math.SQRT1_2 },
    { x: middle.x - ring * Math.SQRT1_2, y: middle.y - ring * Math.SQRT1_2 },
  );
  // To within what whole pixels of the pointer allow.
  await expect(channel(page, 'turn z')).toHaveValue(/^(89\.[3-9]|90\.[0-7])$/);
  await expect(channel(page, 'turn x')).toHaveValue('0.0');
  await page.keyboard.press('Control+z');

  await page.keyboard.press('s');
  await dragMouse(page, middle, { x: middle.x + 40, y: middle.y - 40 });
  const { values } = member(await saved(page, id), 'ball');
  expect(values['size.z']).toBeGreaterThan(1.02);
  expect(values['size.x'] ?? 1).toBe(1);
});

test('a drag with auto-key off on an animated channel is loose; Escape during a drag changes nothing', async ({
  page,
}) => {
  const id = await newShot(page, 'Loose drag');
  await bringIn(page, 'ball');
  await page.keyboard.press('Alt+m');
  await page.keyboard.press('1');
  await page.keyboard.press('v');
  const stage = (await page.getByTestId('stage').boundingBox())!;
  const tip = { x: stage.x + stage.width / 2 + stage.height * 0.118, y: stage.y + stage.height / 2 };
  const before = await saved(page, id);
  await page.mouse.move(tip.x, tip.y);
  await page.mouse.down();
  await page.mouse.move(tip.x + 50, tip.y, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  expect(await saved(page, id)).toEqual(before);
  await dragMouse(page, tip, { x: tip.x + 50, y: tip.y });
  const { loose } = await saved(page, id);
  expect(Object.keys(loose).map((p) => p.split('.').slice(1).join('.'))).toEqual(['move.x']);
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toContainText('loose');
});

test('the cast: grouped, put under another, renamed, hidden, locked, duplicated, deleted, all from the keyboard', async ({
  page,
}) => {
  const id = await newShot(page, 'Cast');
  await bringIn(page, 'box');
  await bringIn(page, 'cone');
  await page.getByRole('treeitem', { name: 'Cone' }).click();
  await page.keyboard.press('F2');
  await page.getByLabel('New name of Cone').fill('Hat');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('treeitem', { name: 'Hat' })).toBeVisible();
  await page.keyboard.press('Shift+U');
  await page.getByRole('dialog').getByRole('button', { name: 'Box' }).click();
  let shot = await saved(page, id);
  expect(member(shot, 'cone').parent).toBe(member(shot, 'box').id);

  await page.getByRole('treeitem', { name: 'Box' }).click();
  await page.keyboard.press('Control+d');
  await expect(page.getByRole('treeitem')).toHaveCount(4);
  await page.keyboard.press('g');
  shot = await saved(page, id);
  const group = member(shot, 'group');
  expect(
    Object.values(shot.members)
      .filter((m) => m.parent === group.id)
      .map((m) => m.name),
  ).toEqual(['Box 2']);
  await page.keyboard.press('h');
  await page.keyboard.press('Shift+H');
  shot = await saved(page, id);
  expect(shot.members[group.id]).toMatchObject({ locked: true, values: { visible: 0 } });
  await page.keyboard.press('Shift+H');
  await page.keyboard.press('Shift+Delete');
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  expect(Object.keys((await saved(page, id)).members)).toHaveLength(2);
});

test('dragging a row of the cast onto another puts it under it, and onto the free space puts it back', async ({
  page,
}) => {
  const id = await newShot(page, 'Dragged rows');
  await bringIn(page, 'box');
  await bringIn(page, 'ball');
  const row = async (name: string) => {
    const box = (await page.getByRole('treeitem', { name }).boundingBox())!;
    return { x: box.x + 70, y: box.y + box.height / 2 };
  };
  await dragMouse(page, await row('Ball'), await row('Box'));
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toHaveAttribute('aria-level', '2');
  let shot = await saved(page, id);
  expect(member(shot, 'ball').parent).toBe(member(shot, 'box').id);
  const free = await row('Ball');
  await dragMouse(page, free, { x: free.x, y: free.y + 34 });
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toHaveAttribute('aria-level', '1');
  shot = await saved(page, id);
  expect(member(shot, 'ball').parent).toBeNull();
});

test('playing steps, loops within the range, and stops where it is told', async ({ page }) => {
  await newShot(page, 'Play');
  await bringIn(page, 'ball');
  const frame = page.getByTestId('frame');
  await page.keyboard.press('Alt+m');
  await goTo(page, 7);
  await page.keyboard.press('Alt+m');
  await page.keyboard.press('ArrowRight');
  await expect(frame).toHaveText('8');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(frame).toHaveText('7');
  await page.keyboard.press(']');
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  // All frames it ever shows lie in the range, and it comes round again.
  const seen = await page.evaluate(
    () =>
      new Promise<number[]>((done) => {
        const out = window.document.querySelector('[data-testid=frame]')!;
        const frames: number[] = [];
        const watch = new MutationObserver(() => {
          frames.push(Number(out.textContent));
          if (frames.length >= 12) {
            watch.disconnect();
            done(frames);
          }
        });
        watch.observe(out, { childList: true, characterData: true, subtree: true });
      }),
  );
  expect(Math.min(...seen)).toBeGreaterThanOrEqual(1);
  expect(Math.max(...seen)).toBeLessThanOrEqual(7);
  expect(seen.some((f, i) => i > 0 && f < seen[i - 1])).toBe(true);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
});

test('a handle pressed while a kit’s card is open keeps nothing of the kit, and a drag keeps the drag alone', async ({
  page,
}) => {
  const id = await newShot(page, 'Card and handle');
  await bringIn(page, 'ball');
  await page.keyboard.press('1');
  await page.keyboard.press('v');
  await page.getByRole('tab', { name: 'kits' }).click();
  const bounceKit = page.getByRole('button', { name: /^Bounce/ });
  await bounceKit.click();
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  const [bounced] = Object.values((await saved(page, id)).curves);
  await page.keyboard.press('Control+z');
  expect((await saved(page, id)).curves).toEqual({});
  await bounceKit.click();
  // Where it lands it is where it lay, and so is its handle.
  await goTo(page, bounced.keys[1].frame);
  const rows = page.getByRole('list', { name: /Rows of the sheet/ });
  await expect(rows).toContainText('move y');

  const stage = (await page.getByTestId('stage').boundingBox())!;
  const middle = { x: stage.x + stage.width / 2, y: stage.y + stage.height / 2 };
  const tip = { x: middle.x + stage.height * 0.118, y: middle.y };
  await page.mouse.move(tip.x, tip.y);
  await page.mouse.down();
  await page.mouse.up();
  expect((await saved(page, id)).curves).toEqual({});
  await expect(rows).toContainText('move y');
  await dragMouse(page, tip, { x: tip.x + 60, y: tip.y });
  const after = await saved(page, id);
  expect(after.curves).toEqual({});
  expect(member(after, 'ball').values['move.x']).toBeGreaterThan(0.02);
});
