import { type ChildProcess, spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import type { Browser } from '@playwright/test';
import {
  bringIn,
  channel,
  document,
  goTo,
  member,
  newShot,
  openPractice,
  openShot,
  saved,
  setChannel,
} from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

test.use({ kept: false });

const state = (page: Page) => page.getByTestId('save-state');

test('without a network edits wait in the journal and are sent when it is back', async ({ page, context }) => {
  const id = await newShot(page, 'No network');
  await bringIn(page, 'ball');
  await saved(page, id);
  await context.setOffline(true);
  await setChannel(page, 'move x', 1);
  await setChannel(page, 'move z', 2);
  await expect(state(page)).toHaveAttribute('data-state', 'waiting');
  await expect(state(page)).toContainText('2 edits are kept here');
  await context.setOffline(false);
  const shot = await saved(page, id);
  expect(member(shot, 'ball').values).toMatchObject({ 'move.x': 1, 'move.z': 2 });
});

test('what was done before a reload can be taken back after it', async ({ page }) => {
  const id = await newShot(page, 'Undo later');
  await bringIn(page, 'ball');
  await setChannel(page, 'move y', 2);
  await setChannel(page, 'move y', 3);
  await saved(page, id);
  await page.reload();
  await page.getByRole('treeitem', { name: 'Ball' }).click();
  await expect(channel(page, 'move y')).toHaveValue('3.000');
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(channel(page, 'move y')).toHaveValue('2.000');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toBeHidden();
  await page.keyboard.press('Control+Shift+z');
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toBeVisible();
  expect(member(await saved(page, id), 'ball').values['move.y']).toBe(2);
});

test('a tab that is closed before its edits are sent loses nothing', async ({ page, context }) => {
  const id = await newShot(page, 'Closed tab');
  await bringIn(page, 'ball');
  await saved(page, id);
  await context.route('**/edits', (route) => route.abort());
  await setChannel(page, 'move x', 4);
  await expect(state(page)).toHaveAttribute('data-state', 'waiting');
  await page.close({ runBeforeUnload: false });
  await context.unroute('**/edits');
  const again = await context.newPage();
  await openShot(again, id);
  await expect(again.getByText('Brought back 1 unsaved edits')).toBeVisible();
  expect(member(await saved(again, id), 'ball').values['move.x']).toBe(4);
});

test('a second window is told, and follows what is committed', async ({ page, context }) => {
  const id = await newShot(page, 'Two windows');
  await bringIn(page, 'ball');
  await saved(page, id);
  const second = await context.newPage();
  await openShot(second, id);
  await expect(state(second)).toContainText('open in 2 windows');
  await expect(state(page)).toContainText('open in 2 windows');
  await bringIn(second, 'cone');
  await saved(second, id);
  await expect(page.getByRole('treeitem', { name: 'Cone' })).toBeVisible();
});

/** A shot with a ball at two desks that know nothing of each other but by the server. */
async function twoDesks(page: Page, browser: Browser, name: string) {
  const id = await newShot(page, name);
  await bringIn(page, 'ball');
  await saved(page, id);
  const elsewhere = await browser.newContext();
  const other = await elsewhere.newPage();
  await openShot(other, id);
  return { id, other, leave: () => elsewhere.close() };
}

test('two people at one shot see each other, and what both do is taken and can be undone', async ({
  page,
  browser,
}) => {
  const { id, other, leave } = await twoDesks(page, browser, 'Two people');
  const chip = state(page).getByTitle(/is here as well/);
  await other.getByRole('treeitem', { name: 'Ball' }).click();
  await expect(chip).toHaveText(/^[A-Z][a-z]+: Ball$/);

  await bringIn(other, 'wedge');
  await expect(page.getByRole('treeitem', { name: 'Wedge' })).toBeVisible();
  await Promise.all([bringIn(page, 'cylinder'), bringIn(other, 'cone')]);
  for (const desk of [page, other])
    for (const name of ['Ball', 'Wedge', 'Cylinder', 'Cone'])
      await expect(desk.getByRole('treeitem', { name })).toBeVisible();
  // Undo takes back one's own, whatever the other has done since.
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('treeitem', { name: 'Cylinder' })).toBeHidden();
  await expect(other.getByRole('treeitem', { name: 'Cylinder' })).toBeHidden();
  await saved(other, id);
  const shot = await saved(page, id);
  expect(
    Object.values(shot.members)
      .map((m) => m.kind)
      .sort(),
  ).toEqual(['ball', 'cone', 'wedge']);
  await leave();
  await expect(chip).toBeHidden();
});

test('two at the porter, one at his arms and one at his legs, are both saved', async ({ page, browser }) => {
  const id = await openPractice(page);
  const elsewhere = await browser.newContext();
  const other = await elsewhere.newPage();
  await openShot(other, id);
  /** Keys a limb of the porter at five frames, a little further each time. */
  const pose = async (desk: Page, limb: string, name: string, values: readonly number[]) => {
    await desk.getByRole('treeitem', { name: limb, exact: true }).click();
    for (const [i, value] of values.entries()) {
      await goTo(desk, 3 + 4 * i);
      await setChannel(desk, name, value);
      await desk.keyboard.press('k');
    }
  };
  const [degrees, heights] = [
    [2, 6, 10, 14, 18],
    [0.01, 0.03, 0.05, 0.07, 0.09],
  ];
  await Promise.all([pose(page, 'arm L', 'turn z', degrees), pose(other, 'leg R', 'move y', heights)]);
  await saved(page, id);
  const { curves } = await saved(other, id);
  const keyed = (path: string) =>
    curves[path].keys.filter(({ frame }) => frame <= 19 && (frame - 3) % 4 === 0).map(({ value }) => value);
  expect(keyed('porter-shoulderL.turn.z').map((v) => Math.round((v * 180) / Math.PI))).toEqual(degrees);
  expect(keyed('porter-footR.move.y')).toEqual(heights);
  for (const desk of [page, other]) await expect(desk.getByRole('dialog')).toHaveCount(0);
  await elsewhere.close();
});

for (const [choice, left] of [
  ['Keep theirs', 3],
  ['Keep mine', 2],
] as const)
  test(`where two people have changed the same while one had no network: ${choice.toLowerCase()}`, async ({
    page,
    browser,
  }) => {
    const { id, other, leave } = await twoDesks(page, browser, choice);
    await page.context().setOffline(true);
    await setChannel(page, 'move y', 2);
    await setChannel(page, 'move x', 1);
    await other.getByRole('treeitem', { name: 'Ball' }).click();
    await setChannel(other, 'move y', 3);
    await saved(other, id);
    await page.context().setOffline(false);
    const dialog = page.getByRole('dialog', { name: 'Somebody else has changed the same' });
    await expect(dialog.getByRole('row')).toHaveText([/What/, /move y.*3.*2/]);
    // Mine stand chosen: what others have done is in the log in any case.
    if (choice === 'Keep theirs') await dialog.getByRole('radio', { name: /move y.*: theirs/ }).click();
    await dialog.getByRole('button', { name: choice }).click();
    const ball = member(await saved(page, id), 'ball');
    expect(ball.values).toMatchObject({ 'move.y': left, 'move.x': 1 });
    await expect(channel(other, 'move y')).toHaveValue(left.toFixed(3));
    await leave();
  });

test('a shot that does not read says where, and its last good state opens as a shot of its own', async ({ page }) => {
  const id = await newShot(page, 'Spoilt');
  await bringIn(page, 'ball');
  await saved(page, id);
  // As it would come if something wrong had got into what is kept.
  await page.route(new RegExp(`/api/shots/${id}$`), async (route) => {
    const answer = await route.fetch();
    const shot = await answer.json();
    await route.fulfill({ response: answer, json: { ...shot, document: { ...shot.document, rate: 0 } } });
  });
  await page.goto(`/shots/${id}`);
  await expect(page.getByText('/rate')).toBeVisible();
  await page.getByRole('button', { name: 'Open its last good state' }).click();
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toBeVisible();
  expect(new URL(page.url()).pathname).not.toBe(`/shots/${id}`);
});

test('a server killed in the middle of a drag, and started again, has everything', async ({ browser }) => {
  const port = await freePort();
  let server = await startServer(port);
  const context = await browser.newContext({ baseURL: `http://localhost:${port}` });
  const page = await context.newPage();
  const id = await newShot(page, 'Killed server');
  await bringIn(page, 'ball');
  await page.keyboard.press('1');
  await page.keyboard.press('v');
  await saved(page, id);
  const stage = (await page.getByTestId('stage').boundingBox())!;
  const tip = { x: stage.x + stage.width / 2 + stage.height * 0.118, y: stage.y + stage.height / 2 };
  await page.mouse.move(tip.x, tip.y);
  await page.mouse.down();
  await page.mouse.move(tip.x + 30, tip.y, { steps: 3 });
  server.kill('SIGKILL');
  await new Promise((gone) => server.once('exit', gone));
  await page.mouse.move(tip.x + 60, tip.y, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.press('k');
  await expect(state(page)).toHaveAttribute('data-state', 'waiting');
  server = await startServer(port);
  const shot = await saved(page, id);
  const path = `${member(shot, 'ball').id}.move.x`;
  expect(shot.curves[path].keys[0].value).toBeGreaterThan(0.02);
  await page.reload();
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toBeVisible();
  expect((await document(page, id)).document.curves[path]).toEqual(shot.curves[path]);
  await context.close();
  server.kill('SIGTERM');
});

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}

/** A server of the test's own, on the database that the tests run on. */
async function startServer(port: number): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: join(import.meta.dirname, '../..'),
    stdio: 'inherit',
    env: { ...process.env, PORT: String(port), VARRUP_DATABASE: process.env.VARRUP_TEST_DATABASE },
  });
  await expect(async () => {
    const answer = await fetch(`http://127.0.0.1:${port}/api/health`);
    expect(answer.ok).toBe(true);
  }).toPass({ timeout: 30_000 });
  return child;
}
