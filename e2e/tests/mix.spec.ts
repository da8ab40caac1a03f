import AxeBuilder from '@axe-core/playwright';
import { openCopy, type ShotOut, saved, tabTo } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Clips on tracks: laid, overlapped, trimmed, split, and heard or not. */

interface Span {
  readonly clip: string;
  readonly from: number;
  readonly length: number;
  readonly into: number;
  readonly speed: number;
  readonly levels: readonly { readonly at: number; readonly share: number }[];
  readonly time: readonly { readonly at: number; readonly clip: number }[] | null;
}
type Mixed = ShotOut['document'] & {
  readonly tracks: Record<string, { readonly muted: boolean; readonly own: boolean; readonly spans: readonly Span[] }>;
};
const tracks = async (page: Page, id: string) => Object.values(((await saved(page, id)) as Mixed).tracks);
const spans = async (page: Page, id: string) => (await tracks(page, id)).flatMap((t) => t.spans);
const places = async (page: Page, id: string) => (await spans(page, id)).map((s) => [s.from, s.length]);

const mix = (page: Page) => page.getByRole('region', { name: 'Mix' });
/** Goes to a span by the keyboard: then the arrows are its, and no longer time's. */
async function walkTo(page: Page, words: RegExp): Promise<void> {
  await mix(page).getByLabel('Lay a clip here').focus();
  await tabTo(page, span(page, words));
}

/** The goat with its clips and nothing laid yet, its walk at work. */
async function bareGoat(page: Page): Promise<string> {
  const id = await openCopy(page, '03 Goat on the wall');
  await page.keyboard.press('Shift+W');
  await mix(page).getByRole('button', { name: 'More about Along the wall' }).click();
  await page.getByRole('menuitem', { name: 'take it away; its clips stay' }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('list', { name: 'Clips' }).getByRole('button', { name: /^Walk/ }).click();
  await expect.poll(async () => Object.keys(((await saved(page, id)) as Mixed).tracks)).toEqual([]);
  return id;
}

const beside = (page: Page) => page.getByRole('region', { name: 'Beside the stage' });

const span = (page: Page, words: RegExp) => mix(page).getByRole('button', { name: words });

test('clips are laid one behind the other, overlapped by keys and by hand, split, copied, and taken away', async ({
  page,
}) => {
  const id = await bareGoat(page);
  const lay = mix(page).getByLabel('Lay a clip here');
  await lay.selectOption('Walk');
  await lay.selectOption('Trot');
  await expect.poll(() => places(page, id)).toHaveLength(2);
  const [[from, length]] = await places(page, id);
  expect(from).toBe(1);
  expect((await places(page, id))[1][0]).toBe(1 + length);
  // While a clip is at work nothing of it is heard, and that is said.
  await expect(mix(page).getByRole('status')).toContainText('Walk is at work');
  await mix(page).getByRole('button', { name: 'lay it by' }).click();
  await expect(mix(page).getByRole('status')).toHaveCount(0);

  await walkTo(page, /^Trot, frames/);
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await places(page, id))[1][0]).toBe(length - 5);
  await expect(mix(page).getByRole('img', { name: /^Walk goes over into Trot/ })).toBeVisible();
  await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(async () => (await places(page, id))[1][1]).toBe(59);
  await page.keyboard.press('Alt+ArrowRight');
  await expect.poll(async () => (await spans(page, id))[1].into).toBe(1);

  // By hand, and not further than the edge of what it goes to; Escape leaves it.
  const box = (await span(page, /^Walk, frames/).boundingBox())!;
  await page.mouse.move(box.x + box.width - 3, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + 20, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => (await places(page, id))[0][1]).toBeLessThan(length * 0.6);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await places(page, id))[0][1]).toBe(length);

  // Its ruler goes to a frame.
  await mix(page).getByText('37', { exact: true }).click();
  await expect(page.getByTestId('frame')).toHaveText('37');
  await span(page, /^Walk, frames/).focus();
  await page.keyboard.press('s');
  await expect
    .poll(async () => (await places(page, id)).slice(0, 2))
    .toEqual([
      [1, 36],
      [37, length - 36],
    ]);
  await span(page, /^Trot, frames/).focus();
  await page.keyboard.press('c');
  await expect.poll(() => places(page, id)).toHaveLength(4);
  await page.keyboard.press('Delete');
  await expect.poll(() => places(page, id)).toHaveLength(3);
  await page.reload();
  await expect(span(page, /, frames/)).toHaveCount(3);

  // Laid down they are keys of the goat and of its way, and the tracks are silent.
  const goatKeys = async () =>
    Object.keys((await saved(page, id)).curves).filter((path) => path.startsWith('goat')).length;
  expect(await goatKeys()).toBe(0);
  await mix(page).getByRole('button', { name: 'lay down as keys' }).click();
  await expect(page.getByText(/keys on \d+ channels/)).toBeVisible();
  await expect.poll(goatKeys).toBeGreaterThan(20);
  expect((await tracks(page, id))[0].muted).toBe(true);
  await page.keyboard.press('Control+z');
  await expect.poll(goatKeys).toBe(0);
});

test('a span has its numbers, wrong ones are refused; a locked track is left alone; its clip is a press away', async ({
  page,
}) => {
  const id = await bareGoat(page);
  await mix(page).getByLabel('Lay a clip over the rest').selectOption('Trot');
  await expect.poll(async () => (await spans(page, id))[0]).toMatchObject({ from: 1, easeIn: 12, easeOut: 12 });
  const speed = beside(page).getByLabel('speed of the span', { exact: true });
  await speed.fill('0.5');
  await speed.press('Enter');
  await expect.poll(async () => (await spans(page, id))[0].speed).toBe(0.5);
  for (const wrong of ['0', '-2', '99', 'fast', '']) {
    await speed.fill(wrong);
    await speed.press('Enter');
    await speed.press('Escape');
  }
  expect((await spans(page, id))[0].speed).toBe(0.5);
  await mix(page).getByRole('button', { name: 'Lock Track 1' }).click();
  await walkTo(page, /^Trot, frames/);
  for (const key of ['ArrowRight', 'Delete', 's']) await page.keyboard.press(key);
  expect((await spans(page, id))[0].from).toBe(1);
  await expect(speed).toBeDisabled();
  await mix(page).getByRole('button', { name: 'Silence Track 1' }).click();
  await expect.poll(async () => (await tracks(page, id))[0].muted).toBe(true);
  await span(page, /^Trot, frames/).focus();
  await page.keyboard.press('Enter');
  await expect(mix(page).getByRole('status')).toContainText('Trot is at work');
});

test('a span bends its time and keys its strength, by numbers and by hand; a crossing is suggested with its slide', async ({
  page,
}) => {
  const id = await openCopy(page, '03 Goat on the wall');
  await page.keyboard.press('Shift+W');
  await span(page, /^Trot, frames 55/).click();
  const press = (name: string) => beside(page).getByRole('button', { name, exact: true }).click();
  const ofTrot = async () => (await spans(page, id))[1];

  await press('suggest a crossing');
  // The shot has it from there.
  await expect(beside(page).getByText('It is there already.')).toBeVisible();
  const from = beside(page).getByLabel('from of the span', { exact: true });
  await from.fill('61');
  await from.press('Enter');
  await press('suggest a crossing');
  await expect(beside(page).getByText(/feet slide \d\.\d\d mm a frame at most/)).toBeVisible();
  await press('take it');
  await expect(page.getByRole('button', { name: /^Undo: take the suggested crossing/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await ofTrot()).from).toBe(55);

  // Away from its frames nothing is taken hold of.
  await press('bend its time here');
  await expect(page.getByText('Go to a frame of the span first')).toBeVisible();
  await mix(page).getByText('73', { exact: true }).click();
  await press('key its strength here');
  await expect.poll(async () => (await ofTrot()).levels).toEqual([{ at: 18, share: 1 }]);
  const share = beside(page).getByLabel('value of point 1 of its strength');
  await share.fill('0.5');
  await share.press('Enter');
  await share.fill('7');
  await share.press('Enter');
  await share.press('Escape');
  await expect.poll(async () => (await ofTrot()).levels).toEqual([{ at: 18, share: 0.5 }]);
  await press('bend its time here');
  await expect.poll(async () => (await ofTrot()).time?.map((p) => p.at)).toEqual([0, 18, 42]);
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  const [, middle] = (await ofTrot()).time!;
  const frame = beside(page).getByLabel('frame of point 2 of its time');
  await frame.fill('78');
  await frame.press('Enter');
  await expect.poll(async () => (await ofTrot()).time?.[1]).toEqual({ at: 23, clip: middle.clip });
  for (const [n, left] of [
    [2, 2],
    [1, 0],
  ]) {
    await press(`Take point ${n} of its time away`);
    await expect.poll(async () => (await ofTrot()).time?.length ?? 0).toBe(left);
  }
});

test('a span goes to another track, by keys, by hand and by choice', async ({ page }) => {
  const id = await openCopy(page, '03 Goat on the wall');
  await page.keyboard.press('Shift+W');
  await mix(page).getByRole('button', { name: 'new track' }).click();
  await mix(page).getByRole('button', { name: 'More about Track 2' }).click();
  await page.getByRole('menuitem', { name: 'rename…' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Under it');
  await page.keyboard.press('Enter');
  const names = async () =>
    await mix(page)
      .locator('[data-track]')
      .evaluateAll((rows) => rows.map((r) => r.ariaLabel));
  await expect.poll(names).toEqual(['Under it', 'Along the wall']);
  await mix(page).getByRole('button', { name: 'More about Under it' }).click();
  await page.getByRole('menuitem', { name: 'under Along the wall' }).click();
  await expect.poll(names).toEqual(['Along the wall', 'Under it']);
  await page.keyboard.press('Control+z');
  await expect.poll(names).toEqual(['Under it', 'Along the wall']);
  const counts = async () => (await tracks(page, id)).map((t) => t.spans.length).sort((a, b) => b - a);
  await expect.poll(counts).toEqual([5, 0]);
  await walkTo(page, /^Bound, frames/);
  await page.keyboard.press('ArrowUp');
  await expect.poll(counts).toEqual([4, 1]);
  // The focus went along; there is no track further up.
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await spans(page, id)).some((s) => s.from === 92)).toBe(true);
  const box = (await span(page, /^Walk, frames 1 to/).boundingBox())!;
  const [x, y] = [box.x + box.width / 3, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 6, y - 30, { steps: 3 });
  await page.mouse.move(x + 6, y - 56, { steps: 3 });
  await page.mouse.up();
  await expect.poll(counts).toEqual([3, 2]);
  await beside(page).getByLabel('track', { exact: true }).selectOption({ label: 'Along the wall' });
  await expect.poll(counts).toEqual([4, 1]);
  await page.keyboard.press('Control+z');
  await expect.poll(counts).toEqual([3, 2]);
});

test('own keys stand over the tracks: they correct them, are silenced, and end where they are keyed as the tracks', async ({
  page,
}) => {
  const id = await openCopy(page, '03 Goat on the wall');
  await page.keyboard.press('Shift+W');
  await expect(mix(page).getByRole('region', { name: 'Own keys' })).toHaveCount(0);
  await page.getByRole('treeitem', { name: /^body, hips/ }).click();
  await page.keyboard.press('k');
  await expect(mix(page).getByRole('region', { name: 'Own keys' })).toContainText(/own keys \d+ channels/);
  await mix(page).getByText('61', { exact: true }).click();
  await page.keyboard.press('Alt+Shift+5');
  const keys = async () => Object.entries((await saved(page, id)).curves).filter(([path]) => path.startsWith('goat'));
  // What no track gives has nothing to go back to.
  const ended = async () => (await keys()).filter(([, c]) => c.keys.length === 2).length;
  await expect.poll(ended).toBeGreaterThan(8);
  await mix(page).getByRole('button', { name: 'Silence own keys' }).click();
  const own = async () => (await tracks(page, id)).filter((t) => t.own).map((t) => [t.muted, t.spans.length]);
  await expect.poll(own).toEqual([[true, 0]]);
  await expect(mix(page).getByRole('button', { name: 'Silence own keys' })).toHaveAttribute('aria-pressed', 'true');
  await expect(mix(page).getByRole('button', { name: 'lay down what is picked' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(own).toEqual([]);
});

test('a pose of the book is laid on a track, held', async ({ page }) => {
  const id = await openCopy(page, '00 Practice floor');
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.getByRole('tab', { name: 'poses' }).click();
  await page.getByRole('button', { name: 'More about Wave' }).click();
  await page.getByRole('menuitem', { name: 'lay it on a track, held' }).click();
  await expect(span(page, /^Wave, frames 1 to 24/)).toBeVisible();
  await expect(beside(page).getByRole('heading', { name: 'Wave on Track 1' })).toBeVisible();
  expect((await spans(page, id))[0]).toMatchObject({ from: 1, length: 24, easeIn: 12 });
});
