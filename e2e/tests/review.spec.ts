import { channel, document, frameX, goTo, keyedBall, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

interface NoteOut {
  readonly text: string;
  readonly state: string;
  readonly first: number;
  readonly on: { is: string; path?: string; pin?: unknown };
  readonly answers: { text: string }[];
}
interface ReviewOut {
  readonly notes: Record<string, NoteOut>;
  readonly suggestions: Record<string, { name: string; note: string | null; curves: Record<string, unknown> }>;
  readonly strokes: Record<string, { on: string }>;
}
const reviewOf = async (page: Page, id: string) => (await saved(page, id)) as unknown as ReviewOut;
const notes = async (page: Page, id: string) =>
  Object.values((await reviewOf(page, id)).notes).sort((a, b) => a.first - b.first);
const toReview = async (page: Page) => {
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Review' }).click();
  // Its panels are there, and with them its stage has the size it keeps.
  await expect(page.getByRole('tab', { name: /^versions/ })).toBeVisible();
};

/** A student's bounce: as long up and down every time, as high as it was. */
const student = (page: Page) =>
  keyedBall(page, 'Student', [
    [1, 2],
    [13, 0.2],
    [25, 2],
    [37, 0.2],
    [49, 2],
    [61, 0.2],
  ]);

const side = (page: Page, word: string) => page.getByRole('tab', { name: new RegExp(`^${word}`) }).click();
const fix = (page: Page) => page.getByRole('region', { name: 'A fix, shown and not made' });

test('a teacher notes, draws on the curve and shows a fix; the student answers and takes it', async ({ page }) => {
  const { id, path } = await student(page);
  await toReview(page);
  // A note on whom is picked, at the frame.
  await goTo(page, 25);
  await page.keyboard.press('Control+Shift+e');
  // The hand is in its words: letters typed now are words, and no shortcuts.
  await expect(page.getByLabel('What the note says')).toBeFocused();
  await page.keyboard.type('The second top is as high as the first: it loses nothing.');
  await page.getByLabel('What the note says').press('Control+Enter');
  // Another is drawn on the very curve.
  await page.getByRole('tab', { name: 'curves' }).click();
  await side(page, 'channels');
  await page.getByRole('button', { name: 'Pick move y' }).click();
  await page.keyboard.press('Control+Shift+f');
  const drawing = page.getByTestId('curve-drawing');
  const box = (await drawing.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.5);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.4, box.y + box.height * 0.8, { steps: 8 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'pencil down' }).click();
  const said = await notes(page, id);
  expect(said).toMatchObject([
    { first: 25, state: 'open', on: { is: 'stage', pin: { member: 'float' } } },
    { first: 25, state: 'open', on: { is: 'curve', path } },
  ]);
  expect(Object.keys((await reviewOf(page, id)).strokes).length).toBe(1);
  // The fix is shown and not made: what is done meanwhile changes nothing.
  const before = (await document(page, id)).document.curves[path];
  await side(page, 'notes');
  await page.getByRole('button', { name: 'show a fix' }).click();
  await side(page, 'channels');
  await channel(page, 'move y').fill('1.3');
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  await expect(channel(page, 'move y')).toHaveValue('1.300');
  expect((await document(page, id)).document.curves[path]).toEqual(before);
  await page.getByLabel('What the fix is').fill('Lower the second time');
  await page.getByRole('button', { name: 'suggest it' }).click();
  await expect(fix(page)).toBeHidden();
  await expect
    .poll(async () => Object.values((await reviewOf(page, id)).suggestions))
    .toMatchObject([{ name: 'Lower the second time' }]);
  expect((await document(page, id)).document.curves[path]).toEqual(before);
  // The student comes later: all is there, in the sheet and in the list.
  await page.reload();
  await page.getByRole('tab', { name: 'sheet' }).click();
  await side(page, 'notes');
  await expect(page.getByRole('region', { name: 'Notes on frames' }).getByRole('button')).toHaveCount(2);
  await page.keyboard.press('Home');
  await page.keyboard.press('Alt+u');
  await expect(page.getByTestId('frame')).toHaveText('25');
  await page.getByLabel('Answer the note').fill('So it does.');
  await page.getByRole('button', { name: 'say', exact: true }).click();
  await expect(page.getByText('So it does.')).toBeVisible();
  await page.getByRole('button', { name: 'see it' }).click();
  await expect(page.getByText('now, and Lower the second time')).toBeVisible();
  await page.getByRole('button', { name: 'take', exact: true }).click();
  await expect
    .poll(async () => (await document(page, id)).document.curves[path].keys.find((k) => k.frame === 25)?.value)
    .toBeCloseTo(1.3);
  expect(Object.keys((await reviewOf(page, id)).suggestions)).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await document(page, id)).document.curves[path]).toEqual(before);
});

test('what is typed at once is what the note says, also where its panel has still to come', async ({ page }) => {
  const { id } = await student(page);
  const theme = () => page.locator('html').getAttribute('data-theme');
  const before = await theme();
  await page.keyboard.press('Control+Shift+e');
  await page.keyboard.type('kdr: all of these are letters');
  await expect(page.getByLabel('What the note says')).toHaveValue('kdr: all of these are letters');
  await page.keyboard.press('Control+Enter');
  await expect
    .poll(async () => Object.values((await reviewOf(page, id)).notes).map((n) => n.text))
    .toEqual(['kdr: all of these are letters']);
  expect(await theme()).toBe(before);
});

test('a fix that is left leaves nothing, and what was undone before can be undone after it', async ({ page }) => {
  const { id, path } = await student(page);
  await goTo(page, 13);
  await channel(page, 'move y').fill('0.4');
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  const before = (await saved(page, id)).curves[path];
  await toReview(page);
  await page.getByRole('button', { name: 'show a fix' }).click();
  await side(page, 'channels');
  await channel(page, 'move y').fill('0.9');
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  await page.keyboard.press('Control+z');
  await fix(page).getByRole('button', { name: 'leave' }).click();
  expect((await saved(page, id)).curves[path]).toEqual(before);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await saved(page, id)).curves[path].keys[1].value).toBeCloseTo(0.2);
});

test('a version is looked at beside the shot, compared, brought back and branched', async ({ page }) => {
  const { id, path } = await student(page);
  await toReview(page);
  await side(page, 'versions');
  await page.getByLabel('Name of the version').fill('As handed in');
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  await expect(page.getByRole('button', { name: /As handed in/ }).first()).toBeVisible();
  const before = (await saved(page, id)).curves[path];
  await side(page, 'channels');
  await goTo(page, 25);
  await channel(page, 'move y').fill('1.1');
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  await saved(page, id);
  await side(page, 'versions');
  await page.getByRole('button', { name: /^As handed in/ }).click();
  const changes = page.getByRole('list', { name: 'Changes' });
  await expect(changes).toContainText('move y');
  await expect(changes).toContainText('2.000 → 1.100 at 25');
  for (const how of ['pair', 'wipe', 'over', 'difference'])
    await page.getByLabel('how', { exact: true }).selectOption(how);
  await page.getByRole('button', { name: 'as a shot beside it' }).click();
  await expect(page.getByText(/stands beside it/)).toBeVisible();
  await page.getByRole('button', { name: 'all of it' }).click();
  await expect.poll(async () => (await document(page, id)).document.curves[path]).toEqual(before);
  // What was there before is kept by itself.
  await expect(page.getByRole('button', { name: /^before As handed in came back/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect
    .poll(async () => (await document(page, id)).document.curves[path].keys.find((k) => k.frame === 25)?.value)
    .toBeCloseTo(1.1);
  // Whoever comes again sees what has changed since.
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Animate' }).click();
  await channel(page, 'move x').fill('0.7');
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  await saved(page, id);
  await toReview(page);
  await side(page, 'versions');
  await page.getByRole('button', { name: /^when you last looked/ }).click();
  await expect(page.getByRole('list', { name: 'Changes' })).toContainText('0.000 → 0.700 at 25');
});

test('a drawing on the sheet stays on its frames and its row however the sheet is looked at', async ({ page }) => {
  const { id } = await student(page);
  await page.getByRole('treeitem', { name: 'Float', exact: true }).click();
  await goTo(page, 25);
  const box = (await page.getByTestId('sheet').boundingBox())!;
  const at = async (frame: number) => box.x + (await frameX(page, frame));
  const y = box.y + 60;
  await page.mouse.move(await at(13), y);
  await page.keyboard.press('Control+Shift+f');
  const drawing = page.getByTestId('sheet-drawing');
  await expect(drawing).toBeVisible();
  await page.mouse.down();
  await page.mouse.move(await at(37), y, { steps: 8 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'pencil down' }).click();
  await expect
    .poll(async () => (await notes(page, id)).map((n) => n.on))
    .toMatchObject([{ is: 'sheet', member: 'float' }]);
  /** From where to where there is ink, in pixels of the sheet. */
  const ink = () =>
    drawing.evaluate((canvas: HTMLCanvasElement) => {
      const { data, width } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      let [low, high] = [width, 0];
      for (let i = 3; i < data.length; i += 4)
        if (data[i] > 40) [low, high] = [Math.min(low, ((i - 3) / 4) % width), Math.max(high, ((i - 3) / 4) % width)];
      return [low / devicePixelRatio, high / devicePixelRatio];
    });
  const there = async () => {
    const [low, high] = await ink();
    return Math.max(Math.abs(low - (await frameX(page, 13))), Math.abs(high - (await frameX(page, 37))));
  };
  await expect.poll(there).toBeLessThan(5);
  const [, before] = await ink();
  await page.mouse.move(box.x + 300, y);
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, -400);
  await page.keyboard.up('Control');
  await expect.poll(async () => Math.abs((await ink())[1] - before)).toBeGreaterThan(10);
  // Where the line ends now, time is where it ended.
  const now = (await page.getByTestId('sheet').boundingBox())!;
  await page.mouse.click(now.x + (await ink())[1], now.y + 8);
  await expect(page.getByTestId('frame')).toHaveText('37');
});

test('a drawing on the picture is at the same place at every size, and on the page to print', async ({ page }) => {
  const { id } = await student(page);
  await page.keyboard.press('Alt+c');
  await toReview(page);
  await page.keyboard.press('Control+Shift+f');
  const drawing = page.getByTestId('note-drawing');
  const box = (await drawing.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.width * 0.2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.6, box.y + box.width * 0.25, { steps: 6 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'pencil down' }).click();
  // The picture lay still under the hand from the first moment: the line is as straight as the hand went.
  const [stroke] = Object.values((await reviewOf(page, id)).strokes) as unknown as { points: string }[];
  expect(stroke.points).toMatch(/^5000 2000 \d+ 1000 500 -?\d+$/);
  const ink = () =>
    drawing.evaluate((canvas: HTMLCanvasElement) => {
      const { data, width } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      let [n, x] = [0, 0];
      for (let i = 3; i < data.length; i += 4) if (data[i] > 40) [n, x] = [n + 1, x + (((i - 3) / 4) % width) / width];
      return n === 0 ? null : Math.round((x / n) * 100) / 100;
    });
  await expect.poll(ink).toBeCloseTo(0.55, 1);
  const small = await ink();
  await page.setViewportSize({ width: 1900, height: 1000 });
  await expect.poll(ink).toBe(small);
  await saved(page, id);
  // In what is handed on as well, small and large: where pictures with the notes differ from those without is where it was drawn.
  await page.keyboard.press('Control+m');
  const card = page.getByRole('dialog');
  await card.getByRole('radio', { name: /a picture of frame/ }).check();
  await card.getByLabel('seen by').selectOption({ label: 'the stage as it is now' });
  const taken = async (size: string, notes: boolean) => {
    await card.getByLabel('size').selectOption({ label: size });
    await card.getByLabel('notes').setChecked(notes);
    const before = await page
      .locator('a[download]')
      .getAttribute('href')
      .catch(() => null);
    await card.getByRole('button', { name: 'make it' }).click();
    const link = page.locator(`a[download]:not([href="${before}"])`);
    await expect(link).toBeVisible({ timeout: 60_000 });
    return await link.getAttribute('href');
  };
  for (const size of ['640 × 360', '1280 × 720']) {
    const [with_, without] = [await taken(size, true), await taken(size, false)];
    const place = await page.evaluate(
      async (addresses) => {
        const [a, b] = await Promise.all(
          addresses.map(async (address) => {
            const bitmap = await createImageBitmap(await (await fetch(address!)).blob());
            const context = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
            context.drawImage(bitmap, 0, 0);
            return context.getImageData(0, 0, bitmap.width, bitmap.height);
          }),
        );
        let [n, x, y] = [0, 0, 0];
        for (let i = 0; i < a.data.length; i += 4) {
          // As much as it differs: a thin end counts for little at either size.
          const ink = Math.abs(a.data[i + 1] - b.data[i + 1]);
          if (ink < 4) continue;
          const [px, py] = [((i / 4) % a.width) / a.width, Math.floor(i / 4 / a.width) / a.width];
          // The sign of the note stands elsewhere, where its pin is.
          if (px > 0.47 && px < 0.63 && py > 0.17 && py < 0.28) [n, x, y] = [n + ink, x + ink * px, y + ink * py];
        }
        return n === 0 ? null : { x: x / n, y: y / n };
      },
      [with_, without],
    );
    // In the middle of the line the hand drew, to two pixels of the small picture.
    expect(Math.abs(place!.x - 0.55)).toBeLessThan(0.0035);
    expect(Math.abs(place!.y - 0.225)).toBeLessThan(0.0035);
  }
  await page.keyboard.press('Escape');
  await page.goto(`/shots/${id}/report`);
  await expect(page.getByRole('region', { name: 'Notes' }).getByRole('img')).toHaveCount(1, { timeout: 60_000 });
  await expect(page.getByRole('region', { name: 'Heights and times' })).toContainText('Float');
  await expect(page.getByRole('region', { name: 'Spacing' }).getByRole('img', { name: /Float move y/ })).toBeVisible();
});
