import { readFile } from 'node:fs/promises';
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { document, newShot, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

interface PlanOut {
  readonly plan: { idea: string; audience: string; leads: boolean };
  readonly panels: Record<
    string,
    {
      id: string;
      place: number;
      frames: number;
      happens: string;
      picture: string | null;
      camera: unknown;
      shot: { id: string } | null;
    }
  >;
  readonly strokes: Record<string, { on: string; tool: string; sheet: number; points: string }>;
  readonly markers: Record<string, { frame: number; name: string; what: string; panel: string | null }>;
}

const planOf = async (page: Page, id: string) => (await saved(page, id)) as unknown as PlanOut;
const inOrder = ({ panels }: PlanOut) => Object.values(panels).sort((a, b) => a.place - b.place);
const toPlan = (page: Page) =>
  page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Plan' }).click();
const paper = (page: Page) => page.getByRole('application', { name: /^Panel/ });
const options = (page: Page) =>
  page.getByRole('list', { name: 'Panels of the board' }).getByRole('button', { name: /^Panel \d/ });

/** Draws a line by mouse; places are in widths of the picture. */
async function line(page: Page, ...places: readonly (readonly [number, number])[]) {
  const box = (await paper(page).boundingBox())!;
  const at = ([x, y]: readonly [number, number]) => [box.x + x * box.width, box.y + y * box.width] as const;
  await page.mouse.move(...at(places[0]));
  await page.mouse.down();
  for (const place of places.slice(1)) await page.mouse.move(...at(place), { steps: 5 });
  await page.mouse.up();
}

/** Whether there is ink on the panel at a place. */
const inkAt = (page: Page, x: number, y: number) =>
  paper(page).evaluate(
    (canvas: HTMLCanvasElement, [px, py]) => {
      const data = canvas.getContext('2d')!.getImageData(px * canvas.width - 6, py * canvas.width - 6, 12, 12).data;
      let darkest = 255;
      for (let i = 0; i < data.length; i += 4) darkest = Math.min(darkest, data[i], data[i + 1], data[i + 2]);
      return darkest < 200;
    },
    [x, y] as const,
  );

test('from a sentence to six panels that play as long as they say', async ({ page }) => {
  const id = await newShot(page, 'Heave');
  await toPlan(page);
  await page.getByLabel('The idea in a sentence').fill('A porter heaves a sack that is too heavy.');
  await page.getByLabel('Who is it for?').fill('Whoever carries');
  await page.getByRole('button', { name: 'Put the first panel on the board' }).click();
  await line(page, [0.2, 0.2], [0.5, 0.4]);
  await expect.poll(() => inkAt(page, 0.35, 0.3)).toBe(true);
  await page.getByLabel('What happens').fill('He hooks it.');
  // Leaving the words takes them over; then the keys are the desk's again.
  await paper(page).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Alt+a');
  await expect(options(page)).toHaveCount(6);
  await page.getByLabel('Frames of panel 3', { exact: true }).fill('10');
  await page.keyboard.press('Enter');
  const plan = await planOf(page, id);
  expect(plan.plan).toMatchObject({ idea: 'A porter heaves a sack that is too heavy.', audience: 'Whoever carries' });
  expect(inOrder(plan).map((p) => p.frames)).toEqual([24, 24, 10, 24, 24, 24]);
  expect((await document(page, id)).document.range).toEqual({ first: 1, last: 130 });
  // A panel is dragged to another place, and moved back by keys.
  const third = inOrder(plan)[2].id;
  const [from, to] = [(await options(page).nth(2).boundingBox())!, (await options(page).nth(0).boundingBox())!];
  await page.mouse.move(from.x + 40, from.y + 30);
  await page.mouse.down();
  await page.mouse.move(to.x + 40, to.y + 34, { steps: 12 });
  await page.mouse.move(to.x + 38, to.y + 30);
  await page.mouse.up();
  await expect.poll(async () => inOrder(await planOf(page, id))[0].id).toBe(third);
  await options(page).nth(0).click();
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Alt+ArrowRight');
  await expect.poll(async () => inOrder(await planOf(page, id))[1].id).toBe(third);
  // One step back each.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => inOrder(await planOf(page, id)).map((p) => p.frames)).toEqual([24, 24, 10, 24, 24, 24]);
  // It plays, and what is on the table is the panel of the frame.
  await page.keyboard.press('Home');
  const first = await paper(page).getAttribute('data-panel');
  await page.keyboard.press('Space');
  await expect(paper(page)).not.toHaveAttribute('data-panel', first!);
  await page.keyboard.press('Space');
});

test('drawing: pencil, tone, rubber and sheets, by mouse and by keys alone', async ({ page }) => {
  const id = await newShot(page, 'Drawn');
  await toPlan(page);
  await page.getByRole('button', { name: 'Put the first panel on the board' }).click();
  await line(page, [0.1, 0.1], [0.9, 0.1]);
  await page.keyboard.press('7');
  await line(page, [0.2, 0.3], [0.8, 0.3]);
  await page.keyboard.press('8');
  await line(page, [0.5, 0.05], [0.5, 0.16]);
  await expect.poll(() => inkAt(page, 0.5, 0.1)).toBe(false);
  expect(await inkAt(page, 0.3, 0.1)).toBe(true);
  // On the sheet over it the rubber leaves what is under it alone.
  await page.keyboard.press('9');
  await line(page, [0.3, 0.05], [0.3, 0.16]);
  expect(await inkAt(page, 0.3, 0.1)).toBe(true);
  await page.keyboard.press('6');
  // By keys: come to by Tab, the arrows are the pencil's.
  await page.getByRole('button', { name: 'through the camera' }).focus();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await paper(page).focus();
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Enter');
  await expect.poll(() => inkAt(page, 0.57, 0.28)).toBe(true);
  const { strokes } = await planOf(page, id);
  expect(Object.values(strokes).map((s) => [s.tool, s.sheet])).toEqual(
    expect.arrayContaining([
      ['pencil', 1],
      ['tone', 1],
      ['rubber', 1],
      ['rubber', 2],
      ['pencil', 2],
    ]),
  );
  await page.keyboard.press('Control+z');
  await expect.poll(() => inkAt(page, 0.57, 0.28)).toBe(false);
  await page.reload();
  await expect.poll(() => inkAt(page, 0.3, 0.1)).toBe(true);
});

test('panels become shots of the production, which stay as long as they are', async ({ page }) => {
  const id = await newShot(page, 'Board');
  await toPlan(page);
  await page.getByRole('button', { name: 'Put the first panel on the board' }).click();
  await page.getByLabel('Name of the panel').fill('The sack tips');
  await paper(page).focus();
  await page.keyboard.press('Alt+a');
  await page.getByRole('button', { name: 'become shots' }).click();
  await expect.poll(async () => inOrder(await planOf(page, id)).filter((p) => p.shot).length).toBe(2);
  const [first] = inOrder(await planOf(page, id));
  const made = first.shot!.id;
  expect((await document(page, made)).document).toMatchObject({
    name: '01 The sack tips',
    range: { first: 1, last: 24 },
  });
  await page.getByLabel('Frames of panel 1', { exact: true }).fill('40');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await document(page, made)).document.range.last, { timeout: 10_000 }).toBe(40);
  // The panel is seen over the stage of its shot.
  await page.goto(`/shots/${made}`);
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible();
  await page.keyboard.press('Control+Shift+g');
  await expect(page.getByRole('img', { name: 'The panel of this frame' })).toBeVisible();
  await page.keyboard.press('Control+Shift+g');
  await expect(page.getByLabel('How strong the panel lies over the stage')).toBeVisible();
});

test('the breakdown list stands over the sheet, and a panel’s line goes where the panel goes', async ({ page }) => {
  const id = await newShot(page, 'Lines');
  await toPlan(page);
  await page.getByRole('button', { name: 'Put the first panel on the board' }).click();
  await paper(page).focus();
  await page.keyboard.press('Alt+a');
  await page.getByRole('button', { name: 'marker in the sheet' }).click();
  await page.getByRole('tab', { name: 'breakdown' }).click();
  await page.getByLabel('what happens, frame 25').fill('It tips');
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: 'board' }).click();
  await page.getByLabel('Frames of panel 1', { exact: true }).fill('30');
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: 'sheet' }).click();
  const marker = page.getByRole('region', { name: 'Markers' }).getByRole('button');
  await expect(marker).toHaveAccessibleName(/at 31\. It goes where its panel goes/);
  expect(Object.values((await planOf(page, id)).markers)).toMatchObject([{ frame: 31, what: 'It tips' }]);
  await marker.click();
  await expect(page.getByTestId('frame')).toHaveText(/^31/);
});

test('the animatic is a movie of as many frames as its panels say, with its sound', async ({ page }) => {
  await newShot(page, 'Animatic');
  await toPlan(page);
  await page.getByRole('button', { name: 'Put the first panel on the board' }).click();
  await line(page, [0.2, 0.2], [0.7, 0.4]);
  await page.getByLabel('Frames of panel 1', { exact: true }).fill('9');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Alt+a');
  await expect(options(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Sounds', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Place a knock on this frame' }).click();
  await page.getByRole('button', { name: 'animatic' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('the board as a movie (animatic)')).toBeChecked();
  await dialog.getByLabel('size').selectOption({ label: '640 × 360' });
  await dialog.getByLabel('format').selectOption('webm');
  await dialog.getByRole('button', { name: /^make/i }).click();
  const saveLink = dialog.getByRole('link', { name: /save/i });
  await expect(saveLink).toBeVisible({ timeout: 60_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), saveLink.click()]);
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(await readFile((await download.path())!)) });
  const video = (await input.getPrimaryVideoTrack())!;
  let frames = 0;
  for await (const _ of new EncodedPacketSink(video).packets()) frames++;
  expect(frames).toBe(18);
  expect(await input.getPrimaryAudioTrack()).not.toBeNull();
});

test('the board is a page to print, with every panel on it', async ({ page }) => {
  const id = await newShot(page, 'Printed');
  await toPlan(page);
  await page.getByLabel('The idea in a sentence').fill('It falls.');
  await page.getByRole('button', { name: 'Put the first panel on the board' }).click();
  await page.getByLabel('What happens').fill('It stands.');
  await paper(page).focus();
  await page.keyboard.press('Alt+a');
  await saved(page, id);
  await page.goto(`/shots/${id}/board/page`);
  await expect(page.getByRole('img')).toHaveCount(2);
  await expect(page.getByText('It falls.')).toBeVisible();
  await expect(page.getByText('2 panels, 48 frames at 24 a second: 2.00 s')).toBeVisible();
  const pdf = await page.pdf({ format: 'A4' });
  expect(pdf.length).toBeGreaterThan(5_000);
});
