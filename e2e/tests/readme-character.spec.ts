import { expect, type Page, test } from '@playwright/test';
import { document, frameX, openPractice, pointAt, saved, timing } from '../desk.ts';

/** The second half of the README's first animation: a character posed, and made to walk. Its sentences stand beside their steps. */

interface Clip {
  readonly name: string;
  readonly travel: number;
  readonly travelling: boolean;
  readonly stances: Record<string, { from: number; to: number }[]>;
  readonly way: { points: unknown[] } | null;
}
const clipsOf = async (page: Page, id: string): Promise<Clip[]> => {
  await saved(page, id);
  return Object.values(
    ((await document(page, id)) as unknown as { document: { clips: Record<string, Clip> } }).document.clips,
  );
};

const shownBar = (page: Page) => page.getByRole('region', { name: 'Shown, not made' });

async function pressFrame(page: Page, at: number): Promise<void> {
  const box = (await timing(page).boundingBox())!;
  await page.mouse.click(box.x + (await frameX(page, at)), box.y + 8);
  await expect(page.getByTestId('frame')).toHaveText(String(at));
}

async function drag(page: Page, from: { x: number; y: number }, dx: number, dy: number): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 4 });
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 });
  await page.mouse.up();
}

test('now a character: posed by hand and by the book, keyed, planted, its newer version taken', async ({ page }) => {
  const id = await openPractice(page);
  // 1. Take the circle round the porter's hand and drag it: the arm follows. Drag the square at its hips: the feet stay.
  await drag(page, await pointAt(page, 'Porter: hand L'), 50, -90);
  let { members } = await saved(page, id);
  expect(members['porter-handL'].values['move.y']).toBeGreaterThan(0.1);
  await page.keyboard.press('Escape');
  const feet = JSON.stringify(['L', 'R'].map((m) => members[`porter-foot${m}`].values));
  await drag(page, await pointAt(page, 'Porter: hips', { left: 0.46, right: 0.64, top: 0.35, bottom: 0.7 }), 0, 30);
  ({ members } = await saved(page, id));
  expect(JSON.stringify(['L', 'R'].map((m) => members[`porter-foot${m}`].values))).toBe(feet);
  expect(members['porter-hips'].values['move.y']).toBeLessThan(-0.01);

  // 2. Press Porter in the cast, then Alt+0 for the poses: put Contact on, then mirror. Slide how much for something between.
  // With one control picked a pose would go onto that alone, and says so.
  await page.keyboard.press('Alt+0');
  await page.getByRole('button', { name: 'Put Stand easy on', exact: true }).click();
  await expect(page.getByText('Stand easy is put on what is picked only.')).toBeVisible();
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.getByRole('button', { name: 'Put Contact on', exact: true }).click();
  ({ members } = await saved(page, id));
  const right = members['porter-footR'].values['move.z'];
  expect(right).toBeGreaterThan(0.3);
  await page
    .getByRole('button', { name: /^mirror/ })
    .first()
    .click();
  ({ members } = await saved(page, id));
  expect(members['porter-footL'].values['move.z']).toBeCloseTo(right, 9);

  // 3. Press the porter's ring on the floor, then K: the whole pose is keyed. Go to frame 13, put another pose on, K again.
  const ring = { left: 0.44, right: 0.66, top: 0.6, bottom: 0.85 };
  const at = await pointAt(page, 'Porter as a whole', ring);
  await page.mouse.click(at.x, at.y);
  await expect(page.getByRole('treeitem', { name: 'Porter', exact: true })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('k');
  await expect(page.getByText('Porter’s pose is keyed. Its place on the stage is not')).toBeVisible();
  await pressFrame(page, 13);
  await page.getByRole('button', { name: 'Put Passing on', exact: true }).click();
  await page.keyboard.press('k');
  const { curves } = await saved(page, id);
  expect(curves['porter-handL.move.z'].keys.map((k) => k.frame)).toEqual([1, 13]);
  // Of an arm that reaches, what turns its joints is not keyed.
  expect(curves['porter-armJointL.turn.x']).toBeUndefined();

  // 4. Shift+Q on an arm turns it joint by joint instead, and back; Shift+T plants a hand or foot where it stands.
  await page.getByRole('treeitem', { name: 'arm L', exact: true }).first().click();
  await page.keyboard.press('Shift+Q');
  await expect(page.getByRole('heading', { level: 2 }).filter({ hasText: 'arm' }).first()).toBeVisible();
  await page.keyboard.press('Shift+Q');
  await page.getByRole('treeitem', { name: 'leg L', exact: true }).first().click();
  await page.keyboard.press('Shift+T');
  await expect(page.getByText('planted').first()).toBeVisible();

  // 5. In channels the porter says that version 2 is there: take version 2… tells what comes and what no longer fits.
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.getByRole('tab', { name: 'channels' }).click();
  await page.getByRole('button', { name: 'take version 2…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('region', { name: 'comes in' })).toContainText('face: jaw, brow L');
  await expect(dialog.getByRole('region', { name: 'goes' })).toContainText('face: cap');
});

test('now let it walk: out of dials, over the stage and along a way; and by hand, with its feet held', async ({
  page,
}) => {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  // 1. gait… opens the dials: choose a character, or turn hips tilt; keep (or Enter) writes it.
  await page.getByRole('button', { name: 'gait…' }).click();
  await page.getByLabel('character').selectOption('heavy');
  await expect(shownBar(page)).toContainText(/\d+ keys come, on \d+ channels/);
  await page.getByRole('tab', { name: /^kits/ }).click();
  await page.keyboard.press('Enter');
  await expect(shownBar(page)).toHaveCount(0);
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'over the stage' }).click();
  expect((await clipsOf(page, id))[0]).toMatchObject({ name: 'Walk', travelling: true });
  await page.getByRole('button', { name: 'draw a way' }).click();
  const stage = (await page.getByTestId('stage').boundingBox())!;
  for (const [x, y] of [
    [0.3, 0.8],
    [0.5, 0.92],
    [0.7, 0.8],
  ])
    await page.mouse.click(stage.x + stage.width * x, stage.y + stage.height * y);
  await page.keyboard.press('Enter');
  expect((await clipsOf(page, id))[0].way?.points).toHaveLength(3);
  // The dials stay there: gait… with a foot picked opens them as they are, and no key is called yours.
  await page.getByRole('treeitem', { name: 'leg L', exact: true }).first().click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'gait…' }).click();
  await expect(page.getByRole('region', { name: 'Gait for Porter' }).getByLabel('character')).toHaveValue('heavy');
  await expect(shownBar(page)).not.toContainText('of yours');
  await page.keyboard.press('Escape');
  await expect(shownBar(page)).toHaveCount(0);

  // 2. By hand instead: new clip, then put Contact, Down, Passing and Up on at 1, 4, 7 and 10 and press K each time.
  await page.getByRole('treeitem', { name: 'Porter', exact: true }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'new clip' }).click();
  await page.getByRole('tab', { name: 'poses' }).click();
  for (const [name, at] of [
    ['Contact', 1],
    ['Down', 4],
    ['Passing', 7],
    ['Up', 10],
  ] as const) {
    await pressFrame(page, at);
    await page.getByRole('button', { name: `Put ${name} on`, exact: true }).click();
    await page.keyboard.press('k');
    // While it is made nothing is said of its halves.
    if (at < 10) await expect(page.getByText('is from its mirror image')).toHaveCount(0);
  }
  expect((await saved(page, id)).curves['porter-hips.turn.z'].keys.map((k) => k.frame)).toEqual([
    1, 4, 7, 10, 13, 16, 19, 22, 25,
  ]);
  // hold the feet to the ground shows the feet standing, with the stride it measures as travel; keep ties the two.
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'hold the feet to the ground' }).click();
  await expect(shownBar(page)).toContainText(/travels 1\.\d{3} m a cycle, as far as they go/);
  await shownBar(page).getByRole('button', { name: 'keep' }).click();
  const held = (await clipsOf(page, id)).find((c) => Object.keys(c.stances).length === 2 && c.travel > 1);
  expect(held).toBeDefined();

  // 3. The cycle tab shows which foot is down when, to be dragged.
  await page.getByRole('tab', { name: 'cycle' }).click();
  await expect(page.getByRole('slider', { name: 'foot R is down' }).first()).toBeVisible();
});
