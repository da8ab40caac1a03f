import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import type { Download } from '@playwright/test';
import { bringIn, newShot, openCopy, saved, setChannel } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Goes to the desk where work is handed on. */
async function toHandOn(page: Page): Promise<void> {
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Hand on' }).click();
  await expect(page.getByRole('button', { name: 'hand on', exact: true })).toBeVisible();
}

async function handedOn(page: Page): Promise<{ name: string; bytes: Buffer }> {
  const [download] = (await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'hand on', exact: true }).click(),
  ])) as [Download, unknown];
  return { name: download.suggestedFilename(), bytes: await readFile(await download.path()) };
}

/** What the text part of a .glb says. */
const told = (glb: Buffer) => JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString('utf8'));

test('the toolbox is handed on in one press, and differs in another player by less than a tenth of a millimetre', async ({
  page,
}) => {
  await openCopy(page, '11 Snapping toolbox');
  await toHandOn(page);
  await page.getByLabel('Recipient').selectOption('a game, by clips');
  const { name, bytes } = await handedOn(page);
  expect(name).toBe('11_Snapping_toolbox_copy.glb');
  const file = told(bytes);
  expect(file.animations.map((a: { name: string }) => a.name).sort()).toEqual(['Act', 'Bite', 'Doze_off', 'Wake']);
  // Clips by themselves are of their rig: the landing stays here.
  expect(file.nodes.some((n: { name: string }) => n.name === 'Landing')).toBe(false);
  await page.getByRole('button', { name: 'play it in the playground' }).click();
  const difference = page.getByRole('region', { name: 'Difference' });
  for (const motion of ['Act', 'Bite', 'Doze_off', 'Wake']) {
    await difference.getByLabel('Motion').selectOption(motion);
    await expect(difference.getByRole('status')).toContainText(/^0\.0\d\d mm apart at most/, { timeout: 30_000 });
  }
  const playground = page.frameLocator('iframe[title=Playground]');
  await playground.getByRole('button', { name: 'Bite' }).click();
  const time = playground.getByLabel('Time');
  await expect.poll(async () => Number(await time.inputValue())).toBeGreaterThan(0.1);
  await playground.getByRole('button', { name: 'Wake' }).click();
  await expect(playground.getByRole('button', { name: 'Wake' })).toHaveAttribute('aria-pressed', 'true');
  await expect(playground.getByLabel('Statistics')).toContainText('joints19');
});

test('choices are remembered as a recipient, and what was made is made again', async ({ page }) => {
  await openCopy(page, '11 Snapping toolbox');
  await toHandOn(page);
  await page.getByLabel('format', { exact: true }).selectOption({ label: 'BVH capture' });
  await page.getByLabel('shot', { exact: true }).selectOption({ label: 'not as a motion' });
  await page.getByRole('button', { name: 'Remember these choices' }).click();
  await page.getByLabel('Name of the recipient').fill('Puppet house');
  await page.keyboard.press('Enter');
  await page.reload();
  await page.getByLabel('Recipient').selectOption('Puppet house');
  await expect(page.getByLabel('format', { exact: true })).toHaveValue('bvh');
  const { name, bytes } = await handedOn(page);
  // A file for each clip, all in one.
  expect(name).toBe('Toolbox_Act.zip');
  expect(bytes.subarray(0, 2).toString()).toBe('PK');
  await page.getByRole('tab', { name: 'made' }).click();
  const made = page.getByRole('list', { name: 'Made' }).getByRole('listitem');
  await expect(made).toHaveCount(1);
  await expect(made.first()).toContainText('BVH capture · 4 clips · 24 a second');
  await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Make it again' }).click()]);
  await expect(made).toHaveCount(2);
});

test('it is looked through first: what is loose is told, and mended from there', async ({ page }) => {
  const id = await newShot(page, 'Looked through');
  await bringIn(page, 'ball');
  await page.keyboard.press('k');
  await setChannel(page, 'move y', 2);
  await toHandOn(page);
  await page.getByRole('button', { name: 'see them' }).click();
  const remarks = page.getByRole('list', { name: 'Remarks' });
  await expect(remarks).toContainText('One loose change stays here');
  await remarks.getByRole('button', { name: 'key them' }).click();
  expect((await saved(page, id)).loose).toEqual({});
  await expect(page.getByText('One loose change stays here')).toBeHidden();
});

test('where there is nothing to hand on it says so, and the playground refuses what is no file of its kind', async ({
  page,
}) => {
  await newShot(page, 'Nothing');
  await toHandOn(page);
  await page.getByRole('button', { name: 'hand on', exact: true }).click();
  await expect(page.getByRole('alert')).toHaveText(
    'It could not be made. There is nobody to hand on: choose whom of the cast.',
  );
  await page.goto('/playground');
  await page.setInputFiles('input[type=file]', {
    name: 'broken.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from('glTF, not'),
  });
  await expect(page.getByRole('alert')).toContainText('broken.glb cannot be read.');
});

for (const theme of ['light', 'dark'] as const)
  test(`axe finds nothing where work is handed on, ${theme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: theme });
    await openCopy(page, '11 Snapping toolbox');
    await toHandOn(page);
    await page.getByText(/^how:/).click();
    await handedOn(page);
    for (const tab of ['files', 'remarks', 'made', 'playground']) {
      await page.getByRole('tab', { name: tab }).click();
      const { violations } = await new AxeBuilder({ page })
        .include('[data-place=beside]')
        .include('[data-place=below]')
        .analyze();
      expect(violations.map((v) => `${tab}: ${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`)).toEqual(
        [],
      );
    }
  });
