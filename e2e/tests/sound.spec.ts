import { readFile } from 'node:fs/promises';
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { bringIn, document, frameX, goTo, newShot, timing } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

async function sounds(page: Page, id: string): Promise<{ sound: string; frame: number; gain: number }[]> {
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
  const { sounds: placed } = (await document(page, id)).document as unknown as { sounds: Record<string, never> };
  return Object.values(placed);
}

test('a sound is placed, moved, made louder and taken away under the sheet', async ({ page }) => {
  const id = await newShot(page, 'Sounds');
  await goTo(page, 13);
  await page.getByRole('button', { name: 'Sounds', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Place a thud on this frame' }).click();
  await expect.poll(() => sounds(page, id)).toMatchObject([{ sound: 'thud', frame: 13, gain: 1 }]);
  const strip = page.getByRole('region', { name: 'Sounds' }).getByRole('button', { name: /^Thud/ });
  // The first sound stands under its frame at once.
  const sheet = (await timing(page).boundingBox())!;
  await expect
    .poll(async () => Math.abs((await strip.boundingBox())!.x - sheet.x - (await frameX(page, 13))))
    .toBeLessThan(2);
  // Come to by the keyboard it has the arrows; else they are time's.
  await strip.focus();
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowUp');
  await expect.poll(() => sounds(page, id)).toMatchObject([{ frame: 14, gain: 1.1 }]);
  const box = (await strip.boundingBox())!;
  await page.mouse.move(box.x + 6, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 106, box.y + 10, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await sounds(page, id))[0].frame).toBeGreaterThan(18);
  await strip.focus();
  await page.keyboard.press('Delete');
  await expect.poll(() => sounds(page, id)).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await sounds(page, id)).length).toBe(1);
});

for (const [format, codec, word] of [
  ['webm', 'opus', 'Opus'],
  ['mp4', 'aac', 'AAC'],
] as const)
  test(`a movie carries the sounds at their frames, in ${format} as ${word}`, async ({ page }) => {
    const id = await newShot(page, 'Loud movie');
    await bringIn(page, 'ball');
    const last = page.getByLabel('Last frame that plays', { exact: true });
    await last.fill('24');
    await last.press('Enter');
    await goTo(page, 13);
    await page.getByRole('button', { name: 'Sounds', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Place a knock on this frame' }).click();
    await expect.poll(() => sounds(page, id)).toHaveLength(1);
    await page.keyboard.press('Control+m');
    await page.getByRole('dialog').getByLabel('size').selectOption({ label: '640 × 360' });
    await page.getByRole('dialog').getByLabel('format').selectOption(format);
    await page.getByRole('button', { name: 'make it' }).click();
    const link = page.locator('a[download]');
    await expect(link).toBeVisible({ timeout: 90_000 });
    await expect(page.getByText(`With its sounds, as ${word}.`)).toBeVisible();
    const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
    const bytes = await readFile(await download.path());
    const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(bytes) });
    const track = (await input.getPrimaryAudioTrack())!;
    expect(track.codec).toBe(codec);
    // Where the track is loud: quiet packets are small.
    const sizes: { at: number; bytes: number }[] = [];
    for await (const packet of new EncodedPacketSink(track).packets())
      sizes.push({ at: packet.timestamp, bytes: packet.byteLength });
    const loudest = sizes.reduce((a, b) => (b.bytes > a.bytes ? b : a));
    expect(loudest.at).toBeGreaterThan(0.45);
    expect(loudest.at).toBeLessThan(0.62);
    expect(await track.computeDuration()).toBeCloseTo(1, 1);
  });
