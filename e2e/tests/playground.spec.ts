import { openPractice } from '../desk.ts';
import { expect, test } from '../test.ts';

test('clips are handed on with how they go about, and driven by arrows and keys in the playground', async ({
  page,
}) => {
  await openPractice(page);
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Hand on' }).click();
  await page.getByLabel('Recipient').selectOption('a game, by clips');
  await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'hand on', exact: true }).click(),
  ]);
  await page.getByRole('button', { name: 'play it in the playground' }).click();
  const playground = page.frameLocator('iframe[title=Playground]');
  const drive = playground.getByRole('region', { name: 'Drive' });
  await drive.getByLabel('Who is driven').selectOption({ label: 'Porter' });
  await expect(drive.getByRole('list', { name: 'What leads where' })).toContainText(/Stand ↑ Stroll, 0\.42 s/);
  await drive.getByLabel('First motion').selectOption({ label: 'Stand' });
  await drive.getByRole('button', { name: 'drive', exact: true }).click();
  const status = drive.getByRole('status');
  await expect(status).toHaveText('Stand');
  await page.keyboard.press('ArrowUp');
  await expect(status).toHaveText(/^Stroll$/);
  await page.keyboard.press('s');
  await expect(status).toHaveText(/Stroll · Hail$/);
  // What is no key of it does nothing.
  await page.keyboard.press('q');
  await expect(status).toHaveText(/Stroll · Hail$/);
  await page.keyboard.press('s');
  await expect(status).toHaveText(/^Stroll$/);
  await page.keyboard.press('ArrowDown');
  await expect(status).toHaveText('Stand');
  await page.keyboard.press('Escape');
  await expect(drive.getByRole('button', { name: 'drive', exact: true })).toBeVisible();
  // Then its motions are played one by one again.
  await playground.getByRole('button', { name: 'Hail' }).click();
  await expect(playground.getByRole('button', { name: 'Hail' })).toHaveAttribute('aria-pressed', 'true');
});
