import AxeBuilder from '@axe-core/playwright';
import { bringIn, channel, goTo, newShot, saved, setChannel } from '../desk.ts';
import { expect, test } from '../test.ts';

const DESKS = ['Plan', 'Cast', 'Animate', 'Review', 'Hand on'] as const;

test('from desk to desk: time, what is picked, the view and undo go along, and every desk leads on', async ({
  page,
}) => {
  const id = await newShot(page, 'Desks');
  await bringIn(page, 'ball');
  await setChannel(page, 'move y', 2);
  await page.keyboard.press('k');
  await goTo(page, 13);
  await page.getByRole('tab', { name: 'curves' }).click();
  await page.getByRole('tab', { name: /^kits/ }).click();
  const desks = page.getByRole('navigation', { name: 'Desks' });
  for (const word of DESKS) {
    await desks.getByRole('link', { name: word }).click();
    await expect(page).toHaveURL(new RegExp(`/shots/${id}/${word.toLowerCase().replace(' ', '-')}$`));
    await expect(desks.getByRole('link', { name: word })).toHaveAttribute('aria-current', 'page');
    await expect(page.getByRole('region', { name: `The desk ${word}` })).toBeVisible();
  }
  // What lies over the stage hides it from the keyboard as well.
  await desks.getByRole('link', { name: 'Plan' }).click();
  expect(await page.getByTestId('stage').evaluate((stage) => stage.matches('[inert] *'))).toBe(true);
  await desks.getByRole('link', { name: 'Hand on' }).click();
  // Shortcuts go on from there, and the way back is one press.
  await page.keyboard.press('Alt+PageUp');
  await expect(page).toHaveURL(/review$/);
  await page.keyboard.press('Alt+8');
  await expect(page).toHaveURL(/animate$/);
  await expect(page.getByRole('tab', { name: /^kits/ })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByTestId('frame')).toHaveText('13');
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByRole('tab', { name: 'curves' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Control+z');
  expect((await saved(page, id)).curves).toEqual({});
});

test('a panel is made large over its neighbours with one press, and is as it was with another', async ({ page }) => {
  await newShot(page, 'Large');
  await bringIn(page, 'ball');
  await page.getByRole('tab', { name: 'curves' }).click();
  const curves = page.getByTestId('curves');
  const before = (await curves.boundingBox())!;
  // With the focus in the timing, that is what is meant.
  await page.keyboard.press('Shift+L');
  await expect.poll(async () => (await curves.boundingBox())!.height).toBeGreaterThan(before.height * 2.5);
  await page.keyboard.press('Shift+L');
  await expect.poll(async () => (await curves.boundingBox())!.height).toBe(before.height);
  const stage = page.getByTestId('stage');
  const width = (await stage.boundingBox())!.width;
  await page
    .getByRole('toolbar', { name: 'Tools of the stage' })
    .getByRole('button', { name: 'Make this large' })
    .click();
  await expect.poll(async () => (await stage.boundingBox())!.width).toBeGreaterThan(width * 1.4);
  await page.getByRole('toolbar', { name: 'Tools of the stage' }).getByRole('button', { name: 'As it was' }).click();
  await expect.poll(async () => (await stage.boundingBox())!.width).toBe(width);
});

test('how a channel stands is told by its peg', async ({ page }) => {
  await newShot(page, 'Pegs');
  await bringIn(page, 'ball');
  const state = page.getByRole('button', { name: /^move y is/ });
  await expect(state).toHaveAttribute('data-state', 'constant');
  await page.keyboard.press('k');
  await setChannel(page, 'move y', 2);
  await expect(state).toHaveAttribute('data-state', 'loose');
  await expect(channel(page, 'move y')).toHaveCSS('font-style', 'italic');
  await page.keyboard.press('l');
  await expect(state).toHaveAttribute('data-state', 'keyed');
  await expect(channel(page, 'move y')).toHaveCSS('font-style', 'normal');
  await page.keyboard.press('ArrowRight');
  await expect(state).toHaveAttribute('data-state', 'animated');
});

for (const theme of ['light', 'dark'] as const)
  test(`axe finds nothing on any desk, ${theme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: theme });
    await newShot(page, 'Desks looked through');
    for (const word of DESKS) {
      await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: word }).click();
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(
        violations.map((v) => `${word}: ${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`),
      ).toEqual([]);
    }
  });
