import { channel, goTo, openHome, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** The first animation of the README, sentence by sentence, with the keys it names pressed right after one another. */

const frame = (page: Page) => page.getByTestId('frame');
const checksDone = (page: Page) => expect(page.getByRole('status').filter({ hasText: /in \d+ ms/ })).toBeVisible();

/** "Press frame 13 on the ruler". */
/** "type `0.2` into *move y*". */
async function typeInto(page: Page, name: string, text: string): Promise<void> {
  await channel(page, name).click();
  await page.keyboard.type(text);
}

test('a first animation: a bounce, from an empty shot to its movie', async ({ page }) => {
  await openHome(page);
  // 2. Press new shot and call it Bounce.
  const production = page.getByRole('region', { name: 'Night Ferry', exact: true });
  await production.getByRole('button', { name: 'new shot', exact: true }).click();
  await page.keyboard.type('Bounce');
  await page.keyboard.press('Enter');
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible();
  const id = new URL(page.url()).pathname.split('/').pop()!;

  // 3. bring in… → plane, then bring in… → ball. Type 2 into move y and press K: every channel is keyed on frame 1.
  for (const kind of ['plane', 'ball']) {
    await page.getByRole('button', { name: 'bring in…' }).click();
    await page.getByRole('menuitem', { name: kind, exact: true }).click();
  }
  await typeInto(page, 'move y', '2');
  await page.keyboard.press('k');
  let { curves, members } = await saved(page, id);
  const ball = Object.values(members).find((m) => m.kind === 'ball')!.id;
  const path = `${ball}.move.y`;
  expect(Object.keys(curves)).toHaveLength(9);
  expect(curves[path].keys.map((k) => [k.frame, k.value])).toEqual([[1, 2]]);

  // 4. Press frame 13 on the ruler, type 0.2 into move y. The number leans on hatching: it is loose. Press L to key it.
  await goTo(page, 13);
  await typeInto(page, 'move y', '0.2');
  await page.keyboard.press('Enter');
  await expect(page.getByText('move y is loose')).toBeVisible();
  await page.keyboard.press('l');
  await expect(page.getByText('move y is loose')).toBeHidden();

  // 5. Press A: auto-key is armed. Go to frame 21, type 1; go to frame 29, type 0.2. Press A again.
  await page.keyboard.press('a');
  await expect(page.getByRole('button', { name: /auto key/ })).not.toContainText('off');
  await goTo(page, 21);
  await typeInto(page, 'move y', '1');
  await goTo(page, 29);
  await typeInto(page, 'move y', '0.2');
  await page.keyboard.press('a');
  await expect(page.getByRole('button', { name: /auto key/ })).toContainText('off');
  ({ curves } = await saved(page, id));
  expect(curves[path].keys.map((k) => [k.frame, k.value])).toEqual([
    [1, 2],
    [13, 0.2],
    [21, 1],
    [29, 0.2],
  ]);

  // 6. The checks say so, at 13 and at 29. Press one to go there, open its name, press sharp contact: what it would change is shown;
  // Enter keeps it. J goes to the next one.
  await page.getByRole('tab', { name: /^checks/ }).click();
  await checksDone(page);
  const eased = page.getByRole('region', { name: 'Eased landing' });
  await expect(eased.getByRole('listitem')).toHaveCount(2);
  await eased.getByRole('listitem').first().getByRole('button').first().click();
  await expect(frame(page)).toHaveText('13');
  await eased.getByRole('button', { name: /^Eased landing/ }).click();
  await expect(eased).toContainText('A falling thing is fastest when it hits the ground.');
  await eased.getByRole('listitem').first().getByRole('button', { name: 'sharp contact' }).click();
  await expect(page.getByRole('region', { name: 'Shown, not made' })).toContainText(
    /\d keys? changes?, on one channel/,
  );
  await page.keyboard.press('Enter');
  await expect(eased.getByRole('listitem')).toHaveCount(1);
  await page.keyboard.press('j');
  await expect(frame(page)).toHaveText('29');

  // 7. The bounces tab has it in numbers: type other heights and frame counts, and the keys follow.
  await page.getByRole('tab', { name: 'bounces' }).click();
  await page.getByLabel('Height of the bounce from 13, metres').click();
  await page.keyboard.type('0.7');
  await page.keyboard.press('Enter');
  ({ curves } = await saved(page, id));
  expect(curves[path].keys.find((k) => k.frame === 21)?.value).toBeCloseTo(0.9, 6);

  // 8. Under kits, Squash from speed shows in the stage what it would do; keep (or Enter) writes it.
  await page.getByRole('tab', { name: /^kits/ }).click();
  await page.getByRole('button', { name: /^Squash from speed/ }).click();
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  expect(Object.keys((await saved(page, id)).curves).some((p) => p.includes('deform'))).toBe(true);

  // 9. Space. Then Ctrl+M makes a movie.
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
  await page.keyboard.press('Control+m');
  await expect(page.getByRole('dialog', { name: 'Movie, picture, contact sheet' })).toBeVisible();
});
