import { goTo, keyedBall, newShot, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

interface FootageOut {
  readonly footage: Record<
    string,
    {
      id: string;
      media: string;
      seconds: number;
      rate: number;
      frame: number;
      speed: number;
      shown: string;
      scale: { metres: number } | null;
    }
  >;
  readonly traces: Record<string, { dots: { picture: number; at: [number, number] }[] }>;
  readonly markers: Record<string, { frame: number }>;
}
const footageOf = async (page: Page, id: string) => (await saved(page, id)) as unknown as FootageOut;

/** What the stand-in's ball does, as its file says: it is held for half a second and then falls from 1.6 m; the picture is 4 m wide. */
const WIDE = 4;
const FLOOR = 0.25;
const RADIUS = 0.12;
const HEIGHTS = [1.6, 1.6 * 0.78 ** 2, 1.6 * 0.78 ** 4];
function ball(seconds: number): number {
  if (seconds < 0) return HEIGHTS[0];
  let [from, high] = [-Math.sqrt((2 * HEIGHTS[0]) / 9.81), HEIGHTS[0]];
  for (let i = 0; i < 30; i++) {
    const half = Math.sqrt((2 * high) / 9.81);
    if (seconds < from + 2 * half) return Math.max(0, high - 0.5 * 9.81 * (seconds - from - half) ** 2);
    from += 2 * half;
    high *= 0.78 ** 2;
  }
  return 0;
}

/** Acts it out before the stand-in camera and keeps the take. */
async function act(page: Page, word: RegExp, seconds: number): Promise<void> {
  await page.getByRole('tab', { name: 'footage' }).click();
  await page.getByRole('button', { name: 'act it out…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Act it out' });
  const options = dialog.getByLabel('camera', { exact: true }).locator('option');
  const value = await options.filter({ hasText: word }).getAttribute('value');
  await dialog.getByLabel('camera', { exact: true }).selectOption(value!);
  await dialog.getByRole('button', { name: 'begin' }).click();
  await expect(dialog.getByRole('status')).toHaveText(/ s$/, { timeout: 15_000 });
  await expect
    .poll(async () => Number.parseFloat((await dialog.getByRole('status').textContent()) ?? '0'), { timeout: 90_000 })
    .toBeGreaterThan(seconds);
  await dialog.getByRole('button', { name: 'end the take' }).click();
  await dialog.getByRole('button', { name: 'keep this one' }).click();
  await expect(dialog).toBeHidden({ timeout: 20_000 });
}

const picture = (page: Page) => page.getByTestId('footage').first();

test('acted out before the stand-in, the take goes along with the shot frame by frame, and its marks tell the heights', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const { id } = await keyedBall(page, 'Acted', [
    [1, 1.7],
    [13, 0.2],
    [25, 1.7],
    [37, 0.2],
    [49, 1.7],
    [61, 0.2],
  ]);
  await act(page, /a ball is dropped/, 2.4);
  const [film] = Object.values((await footageOf(page, id)).footage);
  expect(film).toMatchObject({ rate: 24, frame: 1, speed: 1, shown: 'corner' });
  expect(film.seconds).toBeGreaterThan(2.3);
  // It steps with the shot.
  await page.keyboard.press('Home');
  await expect(picture(page)).toHaveAttribute('data-picture', '0');
  for (let i = 1; i <= 3; i++) {
    await page.keyboard.press('ArrowRight');
    await expect(picture(page)).toHaveAttribute('data-picture', String(i));
  }
  await page.getByLabel('shown', { exact: true }).selectOption('beside');
  const box = async () => (await picture(page).boundingBox())!;
  await expect.poll(async () => (await box()).width).toBeGreaterThan(200);
  const press = async (x: number, y: number) => {
    const { x: left, y: top, width } = await box();
    await page.mouse.click(left + x * width, top + y * width);
  };
  const high = 360 / 640;
  const place = (metres: number) => high - (FLOOR + metres) / WIDE;
  // The rod on the wall is a metre.
  await page.getByRole('button', { name: 'mark a length' }).click();
  await press(0.5 - 1.7 / WIDE, place(0.3));
  await expect(page.getByText('Press the other end')).toBeVisible();
  await press(0.5 - 1.7 / WIDE, place(1.3));
  await expect(page.getByLabel('What was marked is so long')).toHaveValue(/^1/);
  // The ball's middle is pressed picture by picture; each press goes on to the next.
  await page.keyboard.press('Home');
  await page.getByRole('button', { name: 'follow a point' }).click();
  const count = Math.floor(film.seconds * film.rate);
  for (let i = 0; i < count; i++) {
    await expect(picture(page)).toHaveAttribute('data-picture', String(i));
    await press(0.5, place(RADIUS + ball(i / 24 - 0.5)));
    await expect(page.getByTestId('frame')).toHaveText(new RegExp(`^${i + 2}\\b`));
  }
  const table = page.getByRole('table', { name: 'Bounces of Point 1' });
  const rows = table.getByRole('row');
  await expect.poll(() => rows.count()).toBeGreaterThan(2);
  for (const [i, height] of HEIGHTS.slice(0, 2).entries()) {
    const text = (await rows
      .nth(i + 1)
      .getByRole('cell')
      .nth(1)
      .textContent())!;
    expect(Math.abs(Number.parseFloat(text) / height - 1)).toBeLessThan(0.02);
  }
  await page.getByRole('button', { name: 'key moment here' }).click();
  await expect.poll(async () => Object.keys((await footageOf(page, id)).markers).length).toBe(1);
  // The film's bounces lie under those of the shot, on frames of the shot; they can be put away.
  await page.getByRole('tab', { name: 'bounces' }).click();
  const filmed = page.getByRole('row').filter({ hasText: /^film / });
  await expect.poll(() => filmed.count()).toBeGreaterThan(1);
  const cells = await filmed.first().getByRole('cell').allTextContents();
  expect(Math.abs(Number.parseFloat(cells[0].slice(5)) - (1 + 24 * (0.5 + Math.sqrt(3.2 / 9.81))))).toBeLessThan(0.5);
  expect(Math.abs(Number.parseFloat(cells[1]) / HEIGHTS[1] - 1)).toBeLessThan(0.02);
  await page.getByLabel('beside it, on film').selectOption('nothing');
  await expect(filmed).toHaveCount(0);
});

test('footage that is played stays with the shot at every speed, and is on a card in the scene', async ({ page }) => {
  test.setTimeout(180_000);
  const id = await newShot(page, 'Together');
  await act(page, /somebody walks across/, 2);
  await page.getByLabel('shown', { exact: true }).selectOption('card');
  await expect.poll(async () => Object.values((await footageOf(page, id)).footage)[0].shown).toBe('card');
  await page.getByLabel('shown', { exact: true }).selectOption('corner');
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  // Whatever is shown while it plays is the picture of the frame it is shown on.
  const seen = await picture(page).evaluate(
    (canvas: HTMLCanvasElement) =>
      new Promise<[number, number][]>((done) => {
        const out: [number, number][] = [];
        const end = performance.now() + 3_000;
        const look = () => {
          const { picture: p, frame } = canvas.dataset;
          if (p !== undefined && p !== 'none') out.push([Number(p), Number(frame)]);
          if (performance.now() < end) requestAnimationFrame(look);
          else done(out);
        };
        look();
      }),
  );
  await page.keyboard.press('Space');
  expect(seen.length).toBeGreaterThan(3);
  for (const [p, frame] of seen) expect(Math.abs(p - (frame - 1))).toBeLessThanOrEqual(0.5);
  // From the beginning again and slower: it comes up with the shot while that goes on.
  const speed = page.getByLabel('Seconds of it that go by in one of the shot');
  await speed.fill('0.5');
  await speed.press('Enter');
  await page.getByTestId('stage').click({ position: { x: 300, y: 20 } });
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  const late = () =>
    picture(page).evaluate(
      (canvas: HTMLCanvasElement) =>
        Number.parseFloat(document.querySelector('[data-testid=frame]')!.textContent!) - Number(canvas.dataset.frame),
    );
  await expect
    .poll(async () => Number.parseFloat((await page.getByTestId('frame').textContent())!))
    .toBeGreaterThan(30);
  await expect.poll(async () => Math.abs(await late())).toBeLessThan(2);
  await page.keyboard.press('Space');
});

/** Pictures told apart by their grey, made in the page. */
async function greys(page: Page, greys: readonly number[], width = 64): Promise<Buffer[]> {
  const made = await page.evaluate(
    ([values, wide]) =>
      Promise.all(
        values.map(async (grey) => {
          const canvas = new OffscreenCanvas(wide, 36);
          const context = canvas.getContext('2d')!;
          context.fillStyle = `rgb(${grey} ${grey} ${grey})`;
          context.fillRect(0, 0, wide, 36);
          return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())];
        }),
      ),
    [greys, width] as const,
  );
  return made.map((bytes) => Buffer.from(bytes));
}

test('a run of numbered pictures goes along with the shot, a picture a frame, and at another rate; one that is odd is refused', async ({
  page,
}) => {
  const id = await newShot(page, 'Run');
  await page.getByRole('tab', { name: 'footage' }).click();
  const bring = async (files: { name: string; mimeType: string; buffer: Buffer }[]) => {
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('region', { name: 'Beside the stage' }).getByRole('button', { name: 'bring in…' }).click(),
    ]);
    await chooser.setFiles(files);
  };
  const file = (n: number, buffer: Buffer) => ({ name: `walk_${n}.png`, mimeType: 'image/png', buffer });
  // The fourth is the second again: it is kept once, and seen twice.
  const values = [20, 80, 140, 80, 200];
  const pictures = await greys(page, values);
  // One of another size is named, and the shot is as it was.
  const [wide] = await greys(page, [50], 80);
  await bring([file(8, pictures[0]), file(9, pictures[1]), file(10, wide)]);
  await expect(page.getByRole('alert')).toContainText('walk_10.png has 80 × 36, and the first of the run 64 × 36');
  await page.getByRole('button', { name: 'leave it' }).click();
  expect(Object.keys((await footageOf(page, id)).footage)).toEqual([]);
  // Given in any order, they come in that of their numbers.
  const numbered = pictures.map((buffer, i) => file(8 + i, buffer));
  await bring([numbered[3], numbered[0], numbered[4], numbered[2], numbered[1]]);
  await expect.poll(async () => Object.keys((await footageOf(page, id)).footage).length).toBe(1);
  const [run] = Object.values((await footageOf(page, id)).footage) as unknown as { pictures: string[]; rate: number }[];
  expect(run.pictures).toHaveLength(5);
  expect(new Set(run.pictures).size).toBe(4);
  const grey = () =>
    picture(page).evaluate(
      (canvas: HTMLCanvasElement) => canvas.getContext('2d')!.getImageData(300, 200, 1, 1).data[0],
    );
  for (const [i, value] of values.entries()) {
    await goTo(page, 1 + i);
    await expect.poll(grey).toBe(value);
  }
  // At twelve a second each is there for two frames of the shot.
  const rate = page.getByLabel('Pictures of the run in a second');
  await rate.fill('12');
  await rate.press('Enter');
  for (const [frame, value] of [
    [2, 20],
    [3, 80],
    [10, 200],
  ]) {
    await goTo(page, frame);
    await expect.poll(grey).toBe(value);
  }
  await goTo(page, 11);
  await expect(picture(page)).toHaveAttribute('data-picture', 'none');
});

test('what only pretends to be footage is refused with a sentence, and nothing changes', async ({ page }) => {
  const id = await newShot(page, 'Pretender');
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    (async () => {
      await page.getByRole('tab', { name: 'footage' }).click();
      await page.getByRole('region', { name: 'Beside the stage' }).getByRole('button', { name: 'bring in…' }).click();
    })(),
  ]);
  await chooser.setFiles({
    name: 'film.mp4',
    mimeType: 'video/mp4',
    buffer: Buffer.from('not a film at all, whatever it says'),
  });
  await expect(page.getByRole('alert')).toContainText('no footage that can be read');
  expect(Object.keys((await footageOf(page, id)).footage)).toEqual([]);
});
