import { bringIn, newShot, saved } from '../desk.ts';
import { expect, test } from '../test.ts';

test('what the hand does while the shot plays becomes a few plain keys, in one step', async ({ page }) => {
  const id = await newShot(page, 'Performed');
  await bringIn(page, 'ball');
  await page.keyboard.press('5');
  await expect(page.getByRole('button', { name: 'perform', exact: true })).toHaveAttribute('aria-pressed', 'true');
  const stage = page.getByTestId('stage');
  const box = (await stage.boundingBox())!;
  await page.keyboard.press('Shift+V');
  // The ball stands in the middle of what is framed.
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  // As long as the shot has played a second of it.
  for (let i = 1; Number(await page.getByTestId('frame').textContent()) < 25; i++)
    await page.mouse.move(x + (i % 80) * 2, y - Math.sin(i / 6) * 40);
  await page.mouse.up();
  await expect.poll(async () => Object.keys((await saved(page, id)).curves).length).toBeGreaterThan(0);
  const { curves } = await saved(page, id);
  for (const curve of Object.values(curves)) {
    expect(curve.keys.length).toBeGreaterThan(1);
    expect(curve.keys.length).toBeLessThan(14);
  }
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Object.keys((await saved(page, id)).curves).length).toBe(0);
});
