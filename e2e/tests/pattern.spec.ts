import { readFile } from 'node:fs/promises';
import { openDocument } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** What a pattern looks like: the same in the stage and in pictures, draft or final. */

test.use({ sketch: false });

/** A floor of checks, half a metre each, seen from straight above. */
const floor = {
  version: 4,
  id: 'made-for-a-test',
  name: 'Checks',
  rate: 24,
  range: { first: 1, last: 24 },
  play: { first: 1, last: 24 },
  members: {
    floor: {
      id: 'floor',
      name: 'Floor',
      kind: 'plane',
      parent: null,
      rank: 1,
      shape: { width: 20, depth: 20 },
      values: { 'move.y': 0.2 },
      material: { name: 'Checks', cover: { is: 'pattern', pattern: 'checks', second: '#24476b', scale: 2, grain: 0 } },
    },
    eye: {
      id: 'eye',
      name: 'Eye',
      kind: 'camera',
      parent: null,
      rank: 2,
      shape: {},
      values: { 'move.y': 6, 'turn.x': -Math.PI / 2 },
    },
  },
  curves: {},
  sets: {},
  formulas: {},
  recipes: {},
  sounds: {},
  watch: { tolerances: {}, ignored: [] },
  aside: {},
};

/** The colours of a picture at places of a grid, each the mean of a few pixels; places at which neighbours differ are left out. */
function colours(page: Page, png: Buffer): Promise<(readonly [number, number, number] | null)[]> {
  return page.evaluate(async (text) => {
    const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
    const image = await createImageBitmap(new Blob([bytes], { type: 'image/png' }));
    const canvas = new OffscreenCanvas(image.width, image.height);
    const context = canvas.getContext('2d')!;
    context.drawImage(image, 0, 0);
    const out: (readonly [number, number, number] | null)[] = [];
    for (let v = 0.08; v < 0.93; v += 0.05)
      for (let u = 0.08; u < 0.88; u += 0.05) {
        const { data } = context.getImageData(Math.round(u * image.width) - 3, Math.round(v * image.height) - 3, 7, 7);
        const [low, high, sum] = [
          [255, 255, 255],
          [0, 0, 0],
          [0, 0, 0],
        ];
        for (let i = 0; i < data.length; i++) {
          if (i % 4 === 3) continue;
          low[i % 4] = Math.min(low[i % 4], data[i]);
          high[i % 4] = Math.max(high[i % 4], data[i]);
          sum[i % 4] += data[i] / 49;
        }
        out.push(high.every((h, c) => h - low[c] < 4) ? [sum[0], sum[1], sum[2]] : null);
      }
    return out;
  }, png.toString('base64'));
}

async function picture(page: Page, quality: 'draft' | 'final'): Promise<Buffer> {
  await page.getByRole('dialog').getByLabel('quality').selectOption(quality);
  await page.getByRole('button', { name: 'make it' }).click();
  const link = page.locator('a[download]');
  await expect(link).toBeVisible({ timeout: 90_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
  return readFile(await download.path());
}

test('a pattern has the same colours in the stage, in a draft picture and in a final one, to two of 255', async ({
  page,
}) => {
  await openDocument(page, 'Checks', floor);
  await page.getByTestId('stage').hover();
  await page.keyboard.press('Shift+G');
  const gate = page.locator('.aspect-video').first();
  await expect(gate).toBeVisible();
  const stage = await colours(page, await gate.screenshot());
  await page.keyboard.press('Control+m');
  await page.getByRole('dialog').getByLabel('size').selectOption({ label: '1280 × 720' });
  await page.getByRole('radio', { name: /a picture/ }).check();
  for (const quality of ['draft', 'final'] as const) {
    const made = await colours(page, await picture(page, quality));
    const both = stage.flatMap((a, i) => {
      const b = made[i];
      return a && b ? [[a, b] as const] : [];
    });
    expect(both.length, `places that are even in both, ${quality}`).toBeGreaterThan(100);
    for (const [a, b] of both) for (const c of [0, 1, 2]) expect(Math.abs(a[c] - b[c])).toBeLessThanOrEqual(2);
    // Of two colours there are two: a picture of one would agree as well.
    expect(new Set(both.map(([, b]) => (b[0] > 140 ? 'light' : 'dark'))).size).toBe(2);
  }
});
