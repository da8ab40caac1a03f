import AxeBuilder from '@axe-core/playwright';
import { openPractice, type ShotOut, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Clips in company: tried with the keyboard, with how each goes about changed meanwhile, and kept. */

interface Clip {
  readonly name: string;
  readonly manner: { readonly key: string | null; readonly easeIn: number; readonly rank: number };
  readonly follows: Record<string, { readonly over: number; readonly by: string }>;
}
type Cast = ShotOut['document'] & {
  readonly clips: Record<string, Clip>;
  readonly tracks: Record<string, { readonly name: string; readonly spans: readonly { readonly clip: string }[] }>;
};
const shot = async (page: Page, id: string) => (await saved(page, id)) as Cast;
const beside = (page: Page) => page.getByRole('region', { name: 'Beside the stage' });
const status = (page: Page) => beside(page).getByRole('status');

async function openCompany(page: Page): Promise<string> {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.keyboard.press('Alt+Shift+4');
  return id;
}

test('a porter stands, walks by an arrow, hails by a key, and it is kept as tracks', async ({ page }) => {
  const id = await openCompany(page);
  await beside(page).getByLabel('Tried over').selectOption({ label: 'over Stand' });
  await beside(page).getByRole('button', { name: 'try' }).click();
  await expect(status(page)).toContainText('Stand on Body');
  await page.keyboard.press('ArrowUp');
  await expect(status(page)).toContainText('Stroll on Body');
  await page.keyboard.press('s');
  await expect(status(page)).toContainText('Hail on Hail');
  // Letters that mean something else elsewhere mean nothing here, and no edit is made of what is only tried.
  await page.keyboard.press('ArrowLeft');
  expect(Object.keys((await shot(page, id)).tracks)).toEqual([]);
  await page.keyboard.press('s');
  await page.keyboard.press('ArrowDown');
  await expect(status(page)).toHaveText(/^(Hail on Hail, )?Stand on Body$/);
  await beside(page).getByRole('button', { name: 'keep as tracks' }).click();
  await expect
    .poll(async () => Object.values((await shot(page, id)).tracks).map((t) => t.name))
    .toEqual(['Body', 'Hail']);
  const [body] = Object.values((await shot(page, id)).tracks);
  expect(body.spans.map((s) => s.clip)).toEqual(['porter-stand', 'porter-walk', 'porter-stand']);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Object.keys((await shot(page, id)).tracks)).toEqual([]);
});

test('how a clip goes about is changed while it plays, and Escape leaves the trial', async ({ page }) => {
  const id = await openCompany(page);
  await beside(page).getByRole('button', { name: 'try' }).click();
  await page.keyboard.press('s');
  await expect(status(page)).toContainText('Hail on Hail');
  await beside(page).getByRole('button', { name: /^Hail/ }).first().click();
  const ease = beside(page).getByLabel('ease in of Hail');
  await ease.fill('20');
  await ease.press('Enter');
  await expect.poll(async () => (await shot(page, id)).clips['porter-hail'].manner.easeIn).toBe(20);
  await expect(status(page)).toContainText('Hail on Hail');
  await page.getByRole('heading', { name: /in company/ }).click();
  await page.keyboard.press('Escape');
  await expect(beside(page).getByRole('button', { name: 'try' })).toBeVisible();
  expect(Object.keys((await shot(page, id)).tracks)).toEqual([]);

  // A key that another clip has is refused with a sentence.
  await beside(page).getByLabel('Key of Stroll').fill('s');
  await expect(page.getByText('The key s starts Hail already.')).toBeVisible();
  await beside(page).getByLabel('Key of Stroll').fill('w');
  await expect.poll(async () => (await shot(page, id)).clips['porter-walk'].manner.key).toBe('w');
});

test('the map says what follows what, and is changed there', async ({ page }) => {
  const id = await openCompany(page);
  await expect(beside(page).getByRole('img', { name: /^Map: Stand to Stroll/ })).toBeVisible();
  const over = beside(page).getByLabel('frames from Stand to Stroll');
  await over.fill('16');
  await over.press('Enter');
  await expect
    .poll(async () => (await shot(page, id)).clips['porter-stand'].follows['porter-walk'])
    .toEqual({
      over: 16,
      by: 'up',
    });
  await beside(page).getByRole('button', { name: 'Stroll no longer follows Stand' }).click();
  await expect.poll(async () => (await shot(page, id)).clips['porter-stand'].follows).toEqual({});
  await beside(page).getByLabel('from clip').selectOption({ label: 'Stand' });
  await beside(page).getByLabel('by', { exact: true }).selectOption({ label: '→' });
  await beside(page).getByLabel('to clip').selectOption({ label: 'Stroll' });
  await beside(page).getByRole('button', { name: 'Let it follow' }).click();
  await beside(page).getByRole('button', { name: /^Hail/ }).first().click();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await expect
    .poll(async () => (await shot(page, id)).clips['porter-stand'].follows['porter-walk'])
    .toEqual({
      over: 12,
      by: 'right',
    });
});
