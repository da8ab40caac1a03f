import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { newShot, openCopy, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

const CAPTURE = `HIERARCHY
ROOT hips
{
  OFFSET 0 0 0
  CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation
  JOINT chest
  {
    OFFSET 0 0.5 0
    CHANNELS 3 Zrotation Xrotation Yrotation
    JOINT head
    {
      OFFSET 0 0.4 0
      CHANNELS 3 Zrotation Xrotation Yrotation
      End Site
      {
        OFFSET 0 0.2 0
      }
    }
  }
}
MOTION
Frames: 25
Frame Time: 0.0416667
${Array.from({ length: 25 }, (_, f) => `0 0.9 ${f / 25} 0 ${f} 0 0 0 0 0 0 ${f * 2}`).join('\n')}
`;

/** Has the browser choose a file for "bring in… a file". */
async function choose(page: Page, file: { name: string; mimeType: string; buffer: Buffer }): Promise<void> {
  await page.getByRole('button', { name: 'bring in…' }).click();
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('menuitem', { name: 'a file…' }).click(),
  ]);
  await chooser.setFiles(file);
}

test('a capture comes in as a rig of turned wood with its clip, is posed and keyed, and taken back with one press', async ({
  page,
}) => {
  const id = await newShot(page, 'Taken in');
  await choose(page, { name: 'harbour-walk.bvh', mimeType: 'text/plain', buffer: Buffer.from(CAPTURE) });
  const card = page.getByRole('dialog', { name: 'Bring in a file' });
  await expect(card).toContainText('harbour walk becomes a rig of the library: 3 joints');
  await expect(card.getByRole('checkbox')).toBeChecked();
  const { violations } = await new AxeBuilder({ page }).include('[role=dialog]').analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
  await card.getByRole('button', { name: 'bring it in' }).click();
  await expect(card).toBeHidden();
  await expect(page.getByRole('treeitem', { name: 'harbour walk' })).toHaveAttribute('aria-selected', 'true');
  const shot = await saved(page, id);
  expect(
    Object.values(shot.members)
      .filter((m) => m.kind === 'control')
      .map((m) => m.name)
      .sort(),
  ).toEqual(['chest', 'head', 'hips']);
  const hips = Object.values(shot.members).find((m) => m.name === 'hips')!;
  expect(shot.curves[`${hips.id}.move.z`].keys).toHaveLength(25);
  await page.keyboard.press('Control+z');
  expect((await saved(page, id)).members).toEqual({});
});

test('what was handed on comes in again, in another shot', async ({ page }) => {
  await openCopy(page, '11 Snapping toolbox');
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Hand on' }).click();
  await page.getByLabel('Recipient').selectOption('a game, by clips');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'hand on', exact: true }).click(),
  ]);
  const buffer = await readFile(await download.path());
  const id = await newShot(page, 'Taken back');
  await choose(page, { name: 'toolbox.glb', mimeType: 'model/gltf-binary', buffer });
  const card = page.getByRole('dialog', { name: 'Bring in a file' });
  await expect(card.getByRole('group', { name: 'its motions, as clips' }).getByRole('checkbox')).toHaveCount(4);
  await card.getByRole('checkbox', { name: /^Wake/ }).uncheck();
  await card.getByRole('button', { name: 'bring it in' }).click();
  await expect(card).toBeHidden();
  const { clips } = (await saved(page, id)) as unknown as { clips: Record<string, { name: string }> };
  expect(
    Object.values(clips)
      .map((c) => c.name)
      .sort(),
  ).toEqual(['Act', 'Bite', 'Doze_off']);
});

test('a shot goes out as an archive and opens from it as it was', async ({ page }) => {
  const id = await openCopy(page, '11 Snapping toolbox');
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Hand on' }).click();
  await page.getByLabel('format', { exact: true }).selectOption({ label: 'Varrup archive' });
  await expect(page.getByRole('region', { name: 'Motions' })).toBeHidden();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'hand on', exact: true }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('11_Snapping_toolbox_copy.zip');
  const buffer = await readFile(await download.path());
  const before = await saved(page, id);
  await newShot(page, 'Archive');
  await page.goto('/');
  const row = page.getByRole('region', { name: 'For Archive', exact: true }).first();
  const open = async (file: Buffer) => {
    await row.getByRole('button', { name: 'More about For Archive' }).click();
    const [chooser] = await Promise.all([
      page.waitForEvent('filechooser'),
      page.getByRole('menuitem', { name: 'open an archive…' }).click(),
    ]);
    await chooser.setFiles({ name: 'shot.zip', mimeType: 'application/zip', buffer: file });
  };
  await open(buffer.subarray(0, 900));
  await expect(page.getByText('It is no archive, or a broken one.')).toBeVisible();
  await open(buffer);
  await expect(page).toHaveURL(/\/shots\/[a-z0-9]+$/);
  const again = new URL(page.url()).pathname.split('/')[2];
  expect({ ...(await saved(page, again)), id: '' }).toEqual({ ...before, id: '' });
});

test('what cannot be read is refused with a sentence, and the shot is as it was', async ({ page }) => {
  const id = await newShot(page, 'Refused');
  for (const [name, why] of [
    ['broken.glb', 'The file is no glTF'],
    ['cut.bvh', 'Line 2'],
    ['picture.png', 'None of these files is glTF'],
  ]) {
    await choose(page, { name, mimeType: 'application/octet-stream', buffer: Buffer.from('HIERARCHY\nROAD hips') });
    const card = page.getByRole('dialog', { name: 'Bring in a file' });
    await expect(card.getByRole('alert')).toContainText(why);
    await expect(card.getByRole('alert')).toContainText('The shot is as it was.');
    await card.getByRole('button', { name: 'leave it' }).click();
    await expect(card).toBeHidden();
  }
  expect((await saved(page, id)).members).toEqual({});
});
