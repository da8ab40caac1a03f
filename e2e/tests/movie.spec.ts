import { readFile } from 'node:fs/promises';
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { bringIn, goTo, keyedBall, newShot, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** A shot of `frames` frames with a ball in it, and the card that makes movies open. */
async function ready(page: Page, frames: number): Promise<void> {
  const id = await newShot(page, 'Ärmel & Kork');
  await bringIn(page, 'ball');
  const last = page.getByLabel('Last frame that plays', { exact: true });
  await last.fill(String(frames));
  await last.press('Enter');
  expect((await saved(page, id)).play.last).toBe(frames);
  await page.keyboard.press('Control+m');
  await page.getByRole('dialog').getByLabel('size').selectOption({ label: '640 × 360' });
}

async function made(page: Page): Promise<{ name: string; bytes: Buffer }> {
  const link = page.locator('a[download]');
  await expect(link).toBeVisible({ timeout: 90_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
  return { name: download.suggestedFilename(), bytes: await readFile(await download.path()) };
}

async function examine(bytes: Buffer) {
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(bytes) });
  const track = (await input.getPrimaryVideoTrack())!;
  const times: number[] = [];
  for await (const packet of new EncodedPacketSink(track).packets()) times.push(packet.timestamp);
  return {
    codec: track.codec,
    width: track.displayWidth,
    height: track.displayHeight,
    times: times.sort((a, b) => a - b),
  };
}

for (const [format, codec] of [
  ['mp4', 'avc'],
  ['webm', 'vp9'],
] as const) {
  test(`a movie as ${format} has every frame of the play range at the shot's rate`, async ({ page }) => {
    await ready(page, 14);
    await page.getByRole('dialog').getByLabel('format').selectOption(format);
    await page.getByRole('button', { name: 'make it' }).click();
    const { name, bytes } = await made(page);
    expect(name).toBe(`armel-kork.${format}`);
    const movie = await examine(bytes);
    expect([movie.codec, movie.width, movie.height]).toEqual([codec, 640, 360]);
    expect(movie.times).toHaveLength(14);
    // WebM counts in milliseconds.
    movie.times.forEach((time, i) => {
      expect(Math.abs(time - i / 24)).toBeLessThan(0.0011);
    });
  });
}

test('a picture and a contact sheet are PNG of the right size, and wrong frames are refused', async ({ page }) => {
  await ready(page, 24);
  const size = (bytes: Buffer) => [bytes.readUInt32BE(16), bytes.readUInt32BE(20)];
  await page.getByRole('radio', { name: /a picture/ }).check();
  await page.getByRole('button', { name: 'make it' }).click();
  const picture = await made(page);
  expect(picture.name).toBe('armel-kork-frame-1.png');
  expect(size(picture.bytes)).toEqual([640, 360]);

  await page.getByRole('radio', { name: /contact sheet/ }).check();
  await page.getByRole('textbox', { name: 'frames' }).fill('1, 200');
  await page.getByRole('button', { name: 'make it' }).click();
  await expect(page.getByRole('alert')).toContainText('“200” reaches outside');
  await page.getByRole('textbox', { name: 'frames' }).fill('1, 5-8, 24');
  await page.getByRole('button', { name: 'make it' }).click();
  const sheet = await made(page);
  expect(sheet.name).toBe('armel-kork-contact-sheet.png');
  // Six pictures of 320 × 180 in two columns and three rows.
  expect(size(sheet.bytes)).toEqual([12 + 2 * 332, 56 + 3 * (180 + 26 + 12)]);
});

test('a looped picture and numbered frames have every frame of the span that is asked for', async ({ page }) => {
  await ready(page, 14);
  await page.getByRole('radio', { name: /looped picture/ }).check();
  await page.getByLabel('First frame of it').fill('3');
  await page.getByLabel('Last frame of it').fill('8');
  await page.getByLabel('Last frame of it').press('Enter');
  await page.getByRole('button', { name: 'make it' }).click();
  const loop = await made(page);
  expect(loop.name).toBe('armel-kork-loop.gif');
  expect(loop.bytes.subarray(0, 6).toString()).toBe('GIF89a');
  expect([loop.bytes.readUInt16LE(6), loop.bytes.readUInt16LE(8)]).toEqual([640, 360]);
  await page.getByRole('radio', { name: /numbered frames/ }).check();
  await page.getByRole('button', { name: 'make it' }).click();
  const frames = await made(page);
  expect(frames.name).toBe('armel-kork-frames.zip');
  const names = [...new Set(frames.bytes.toString('latin1').match(/armel-kork-\d{4}\.png/g))];
  expect(names).toEqual([3, 4, 5, 6, 7, 8].map((n) => `armel-kork-000${n}.png`));
});

test('what is begun goes on while one works elsewhere, says when it is there, and is listed', async ({ page }) => {
  await ready(page, 40);
  await page.getByRole('button', { name: 'make it' }).click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  await expect(page.getByText('armel-kork.mp4 is made.')).toBeVisible({ timeout: 90_000 });
  await page.keyboard.press('Alt+Shift+D');
  await expect(page.getByRole('list', { name: 'Made' })).toContainText('movie · frames 1 to 40 · 640 × 360');
});

test('a movie can be cancelled, and the next one works', async ({ page }) => {
  await ready(page, 90);
  await page.getByRole('button', { name: 'make it' }).click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: 'cancel' }).click();
  await expect(page.getByText('What you make appears here.')).toBeVisible();
  await page.getByRole('radio', { name: /a picture/ }).check();
  await page.getByRole('button', { name: 'make it' }).click();
  expect((await made(page)).name).toContain('.png');
});

test('without a camera the view stands still while things move: what does not move stays on its pixels', async ({
  page,
}) => {
  const { id } = await keyedBall(page, 'No camera', [
    [1, 1],
    [13, 0.1],
  ]);
  await bringIn(page, 'box');
  await saved(page, id);
  const pictures: Buffer[] = [];
  for (const frame of [1, 13]) {
    await goTo(page, frame);
    await page.keyboard.press('Control+m');
    await page.getByRole('radio', { name: /a picture/ }).check();
    await page.getByRole('button', { name: 'make it' }).click();
    pictures.push((await made(page)).bytes);
    await page.keyboard.press('Escape');
  }
  const changed = await page.evaluate(
    async (files) => {
      const [a, b] = await Promise.all(
        files.map(async (file) => {
          const bytes = Uint8Array.from(atob(file), (letter) => letter.charCodeAt(0));
          const bitmap = await createImageBitmap(new Blob([bytes], { type: 'image/png' }));
          const canvas = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
          canvas.drawImage(bitmap, 0, 0);
          return canvas.getImageData(0, 0, bitmap.width, bitmap.height).data;
        }),
      );
      let differ = 0;
      for (let i = 0; i < a.length; i += 4) if (Math.abs(a[i] - b[i]) > 8) differ++;
      return differ / (a.length / 4);
    },
    pictures.map((bytes) => bytes.toString('base64')),
  );
  // The ball and its shadow, where they were and where they are.
  expect(changed).toBeGreaterThan(0.0005);
  expect(changed).toBeLessThan(0.08);
});
