import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import AxeBuilder from '@axe-core/playwright';
import { document, goTo, keyedBall, newShot, openCopy, openHome, pngOf, saved } from '../desk.ts';
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

/** Hands on what stands open in a format. @returns the file */
async function handOn(page: Page, format: string): Promise<Buffer> {
  await page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: 'Hand on' }).click();
  await page.getByLabel('format', { exact: true }).selectOption(format);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'hand on', exact: true }).click(),
  ]);
  return readFile(await download.path());
}

test('sounds go out as WAV; brought in again they lie under the sheet with their waveform, also after a reload', async ({
  page,
}) => {
  await openCopy(page, '01 Float on the steps');
  const buffer = await handOn(page, 'sound, WAV');
  const seconds = (buffer.length - 44) / 2 / 48_000;
  const id = await newShot(page, 'Heard');
  await goTo(page, 7);
  await choose(page, { name: 'on_the_steps.wav', mimeType: 'audio/wav', buffer });
  const card = page.getByRole('dialog', { name: 'Bring in a file' });
  await expect(card).toContainText('on the steps');
  await expect(card).toContainText(`${seconds.toFixed(2)} s`);
  await expect(card).toContainText('from frame 7 on');
  const { violations } = await new AxeBuilder({ page }).include('[role=dialog]').analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
  await card.getByRole('button', { name: 'lay it under the sheet' }).click();
  await expect(card).toBeHidden();
  const { sounds } = (await saved(page, id)) as unknown as { sounds: Record<string, unknown> };
  const media = createHash('sha256').update(buffer).digest('hex');
  expect(Object.values(sounds)).toMatchObject([{ name: 'on the steps', frame: 7, gain: 1, sound: { media, seconds } }]);
  await page.reload();
  const strip = page
    .getByRole('region', { name: 'Sounds' })
    .getByRole('button', { name: /^on the steps, .* at frame 7/ });
  await expect.poll(async () => (await strip.locator('path').boundingBox())?.height ?? 0).toBeGreaterThan(15);
  // From frame 7 on it is what it was from frame 1 on.
  const again = await handOn(page, 'sound, WAV');
  const later = (6 / 24) * 48_000 * 2;
  const same = Math.min(buffer.length, again.length - later) - 44;
  let apart = 0;
  for (let at = 44; at < 44 + same; at += 2) {
    const was = buffer.readInt16LE(at);
    // What is louder is bent once more.
    if (Math.abs(was) < 25_000) apart = Math.max(apart, Math.abs(again.readInt16LE(later + at) - was));
  }
  expect(apart).toBeLessThan(4);
});

test('a sound that is none, and one that is broken, are refused with a sentence, and the shot is as it was', async ({
  page,
}) => {
  const id = await newShot(page, 'Not heard');
  const card = page.getByRole('dialog', { name: 'Bring in a file' });
  for (const [buffer, why] of [
    [Buffer.from('no sound at all'), 'is no sound, whatever it is called'],
    [Buffer.from('RIFF\0\0\0\0WAVEfmt broken'), 'cannot be decoded'],
  ] as const) {
    await choose(page, { name: 'bell.wav', mimeType: 'audio/wav', buffer });
    await expect(card.getByRole('alert')).toContainText(why);
    await card.getByRole('button', { name: 'leave it' }).click();
  }
  expect((await document(page, id)).revision).toBe(0);
});

test('a picture stands in the shot as a board with the picture on it, and goes out with it', async ({ page }) => {
  const id = await newShot(page, 'Pictured');
  const buffer = await pngOf(page, 30, 20, '#1f9d55');
  await choose(page, { name: 'poster.png', mimeType: 'image/png', buffer });
  const card = page.getByRole('dialog', { name: 'Bring in a file' });
  await expect(card).toContainText('poster becomes a board of the library');
  await card.getByRole('button', { name: 'bring it in' }).click();
  await expect(card).toBeHidden();
  await saved(page, id);
  await page.reload();
  // The picture lies in the file as it came.
  expect((await handOn(page, 'glTF, one file')).includes(buffer)).toBe(true);
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

/** A skeleton of somebody else, in centimetres and with names of their own, that walks two steps. */
const WALKER = (() => {
  const joint = (name: string, offset: string, inner = '  End Site\n  {\n    OFFSET 0 -5 5\n  }\n') =>
    `JOINT ${name}\n{\n  OFFSET ${offset}\n  CHANNELS 3 Zrotation Xrotation Yrotation\n${inner}}\n`;
  const leg = (s: string, x: number) =>
    joint(`${s}UpLeg`, `${x} -5 0`, joint(`${s}Leg`, '0 -45 0', joint(`${s}Foot`, '0 -45 0')));
  const arm = (s: string, x: number) =>
    joint(
      `${s}Shoulder`,
      `${x} 10 0`,
      joint(`${s}Arm`, `${x} 0 0`, joint(`${s}ForeArm`, `${3 * x} 0 0`, joint(`${s}Hand`, `${3 * x} 0 0`))),
    );
  const chest = joint('Spine', '0 20 0', joint('Head', '0 40 0') + arm('Left', 8) + arm('Right', -8));
  const root = `HIERARCHY\nROOT Hips\n{\n  OFFSET 0 0 0\n  CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation Yrotation\n${chest}${leg('Left', 10)}${leg('Right', -10)}}\n`;
  const rows = Array.from({ length: 25 }, (_, f) => {
    const swing = 25 * Math.sin((f / 24) * 2 * Math.PI);
    const arms = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
    return [
      0,
      95,
      f * 4,
      0,
      0,
      0,
      0,
      0,
      0,
      0,
      0,
      0,
      ...arms,
      ...arms,
      0,
      swing,
      0,
      0,
      5,
      0,
      0,
      0,
      0,
      0,
      -swing,
      0,
      0,
      5,
      0,
      0,
      0,
      0,
    ].join(' ');
  });
  return `${root}MOTION\nFrames: 25\nFrame Time: 0.0416667\n${rows.join('\n')}\n`;
})();

test('a capture of somebody else is put onto the porter: parts are found and can be corrected, and it is a clip of its own', async ({
  page,
}) => {
  const id = await openCopy(page, '00 Practice floor');
  await choose(page, { name: 'strange walk.bvh', mimeType: 'text/plain', buffer: Buffer.from(WALKER) });
  const card = page.getByRole('dialog', { name: 'Bring in a file' });
  await card.getByLabel('it becomes').selectOption({ label: 'a clip of Porter' });
  await expect(card).toContainText('17 of 17 parts of the body found');
  await card.getByText('17 of 17').click();
  await card.getByLabel('head', { exact: true }).selectOption({ label: 'nothing' });
  await expect(card).toContainText('16 of 17');
  await card.getByLabel('hips', { exact: true }).selectOption({ label: 'nothing' });
  await expect(card.getByRole('button', { name: 'put it on' })).toBeDisabled();
  await card.getByLabel('hips', { exact: true }).selectOption({ label: 'Hips' });
  await card.getByRole('button', { name: 'put it on' }).click();
  await expect(card).toBeHidden();
  const shot = (await saved(page, id)) as unknown as {
    clips: Record<string, { name: string; length: number; kept: unknown }>;
    members: Record<string, { id: string; name: string }>;
    curves: Record<string, { keys: { frame: number; value: number }[] }>;
  };
  const clip = Object.values(shot.clips).find((c) => c.kept === null);
  expect(clip).toMatchObject({ name: 'strange walk', length: 24, kept: null });
  // The hips get on by 96 cm there, and as much further as the porter's legs are longer.
  const moved = Object.entries(shot.curves).filter(([path]) => /hips\.move\.z$/.test(path));
  const keys = moved[0][1].keys;
  expect(Math.abs(keys[keys.length - 1].value - keys[0].value)).toBeGreaterThan(0.8);
  await page.keyboard.press('Control+z');
  const { clips } = (await saved(page, id)) as unknown as typeof shot;
  expect(Object.values(clips).filter((c) => c.kept === null || c.name === 'strange walk')).toEqual([]);
});

test('a table of curves gives the channels it names their keys, as one step, and tells what it does not find', async ({
  page,
}) => {
  const { id, path } = await keyedBall(page, 'Table', [[1, 1]]);
  const [ball] = Object.values((await saved(page, id)).members);
  const table = `frame,seconds,${ball.name}: move y (m),Nobody: move x (m)\n1,0,0.5,1\n13,0.5,2,1\n`;
  await choose(page, { name: 'curves.csv', mimeType: 'text/csv', buffer: Buffer.from(table) });
  const card = page.getByRole('dialog', { name: 'Bring in a file' });
  await expect(card).toContainText('1 channel gets its curve from it, 2 keys');
  await expect(card).toContainText('Nobody: move x: nobody in the shot is called so');
  await card.getByRole('button', { name: 'take them in' }).click();
  await expect(card).toBeHidden();
  const keys = async () => (await saved(page, id)).curves[path].keys.map((k) => [k.frame, k.value]);
  expect(await keys()).toEqual([
    [1, 0.5],
    [13, 2],
  ]);
  await page.keyboard.press('Control+z');
  expect(await keys()).toEqual([[1, 1]]);
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
  await openHome(page, 'For Archive');
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
    ['picture.png', 'The picture cannot be read'],
    ['words.txt', 'None of these files can be read'],
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
