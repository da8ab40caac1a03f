import { channel, document, findCommand, goTo, openPractice, pointAt, saved, tabTo } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/**
 * The second half of the README's first animation, a character posed and made to walk, by one hand alone: the mouse's, and the
 * keyboard's. Its sentences stand beside their steps.
 */

interface Clip {
  readonly name: string;
  readonly travel: number;
  readonly travelling: boolean;
  readonly stances: Record<string, { from: number; to: number }[]>;
  readonly way: { points: unknown[] } | null;
  readonly kept: unknown;
}
const clipsOf = async (page: Page, id: string): Promise<Clip[]> => {
  await saved(page, id);
  return Object.values(
    ((await document(page, id)) as unknown as { document: { clips: Record<string, Clip> } }).document.clips,
  );
};
/** The clip whose keys are on the sheet. */
const atWork = async (page: Page, id: string): Promise<Clip> =>
  (await clipsOf(page, id)).find((clip) => clip.kept === null)!;

const shownBar = (page: Page) => page.getByRole('region', { name: 'Shown, not made' });
const member = (page: Page, name: string) => page.getByRole('treeitem', { name, exact: true }).first();
const press = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();
const FOUR = [
  ['Contact', 1],
  ['Down', 4],
  ['Passing', 7],
  ['Up', 10],
] as const;
const BOTH_STEPS = [1, 4, 7, 10, 13, 16, 19, 22, 25];

/** Walks the cast to somebody, with F6 and the arrows. Everybody on the way is picked, which takes its time: once shows that it goes. */
async function walkTo(page: Page, name: string): Promise<void> {
  await tabTo(page, page.getByRole('tree'), 'F6');
  await page.keyboard.press('Home');
  const isPicked = (rows: Element[]) => rows.some((row) => row.getAttribute('aria-selected') === 'true');
  await tabTo(page, member(page, name), 'ArrowDown', isPicked);
}

/** Goes to a frame by its number. */
async function findFrame(page: Page, frame: number): Promise<void> {
  await findCommand(page, String(frame));
  await expect(page.getByTestId('frame')).toHaveText(String(frame));
}

async function drag(page: Page, from: { x: number; y: number }, dx: number, dy: number): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 4 });
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 });
  await page.mouse.up();
}

test('now a character, by the mouse alone', async ({ page }) => {
  const id = await openPractice(page);
  // 1. Take the circle round the porter's hand and drag it: the arm follows. Drag the square at its hips: the feet stay.
  await drag(page, await pointAt(page, 'Porter: hand L'), 50, -90);
  let { members } = await saved(page, id);
  expect(members['porter-handL'].values['move.y']).toBeGreaterThan(0.1);
  const feet = JSON.stringify(['L', 'R'].map((m) => members[`porter-foot${m}`].values));
  await member(page, 'Porter').click();
  await drag(page, await pointAt(page, 'Porter: hips', { left: 0.46, right: 0.64, top: 0.35, bottom: 0.7 }), 0, 30);
  ({ members } = await saved(page, id));
  expect(JSON.stringify(['L', 'R'].map((m) => members[`porter-foot${m}`].values))).toBe(feet);
  expect(members['porter-hips'].values['move.y']).toBeLessThan(-0.01);

  // 2. Press Porter in the cast, then the poses: put Contact on, then mirror.
  // With one control picked a pose would go onto that alone, and says so.
  await page.getByRole('tab', { name: 'poses' }).click();
  await press(page, 'Put Stand easy on');
  await expect(page.getByText('Stand easy is put on what is picked only.')).toBeVisible();
  await press(page, 'whole body');
  await press(page, 'Put Contact on');
  ({ members } = await saved(page, id));
  const right = members['porter-footR'].values['move.z'];
  expect(right).toBeGreaterThan(0.3);
  await press(page, 'mirror');
  ({ members } = await saved(page, id));
  expect(members['porter-footL'].values['move.z']).toBeCloseTo(right, 9);

  // 3. Press the porter's ring on the floor, then key it: the whole pose is. Go to frame 13, put another pose on, key it again.
  const ring = { left: 0.44, right: 0.66, top: 0.6, bottom: 0.85 };
  const at = await pointAt(page, 'Porter as a whole', ring);
  await page.mouse.click(at.x, at.y);
  await expect(member(page, 'Porter')).toHaveAttribute('aria-selected', 'true');
  await page.getByRole('tab', { name: 'channels' }).click();
  await press(page, 'Key every channel');
  await expect(page.getByText('Porter’s pose is keyed. Its place on the stage is not')).toBeVisible();
  await goTo(page, 13);
  await page.getByRole('tab', { name: 'poses' }).click();
  await press(page, 'Put Passing on');
  await page.getByRole('tab', { name: 'channels' }).click();
  await press(page, 'Key every channel');
  const { curves } = await saved(page, id);
  expect(curves['porter-handL.move.z'].keys.map((k) => k.frame)).toEqual([1, 13]);
  // Of an arm that reaches, what turns its joints is not keyed.
  expect(curves['porter-armJointL.turn.x']).toBeUndefined();

  // 4. An arm turns joint by joint instead, and back; a hand or foot is planted where it stands.
  await member(page, 'arm L').click();
  const switchLimb = page.getByRole('group', { name: 'The control' }).getByRole('button', { name: 'joints' });
  await switchLimb.click();
  await expect(page.getByRole('heading', { level: 2 }).filter({ hasText: 'arm' }).first()).toBeVisible();
  await switchLimb.click();
  await member(page, 'leg L').click();
  await press(page, 'plant');
  await expect(page.getByText('planted').first()).toBeVisible();

  // 5. In channels the porter says that version 2 is there: take version 2… tells what comes and what no longer fits.
  await member(page, 'Porter').click();
  await press(page, 'take version 2…');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('region', { name: 'comes in' })).toContainText('face: jaw, brow L');
  await expect(dialog.getByRole('region', { name: 'goes' })).toContainText('face: cap');
});

test('now let it walk, by the mouse alone', async ({ page }) => {
  const id = await openPractice(page);
  await member(page, 'Porter').click();
  await page.getByRole('tab', { name: 'clips' }).click();
  // 1. gait… opens the dials: choose a character; keep writes it. Over the stage lets it get on; draw a way lays it along one.
  await press(page, 'gait…');
  await page.getByLabel('character').selectOption('heavy');
  await expect(shownBar(page)).toContainText(/\d+ keys come, on \d+ channels/);
  await shownBar(page).getByRole('button', { name: 'keep' }).click();
  await expect(shownBar(page)).toHaveCount(0);
  await page.getByRole('tab', { name: 'clips' }).click();
  await press(page, 'over the stage');
  expect(await atWork(page, id)).toMatchObject({ name: 'Walk', travelling: true });
  await press(page, 'draw a way');
  const stage = (await page.getByTestId('stage').boundingBox())!;
  for (const [x, y] of [
    [0.3, 0.8],
    [0.5, 0.92],
    [0.7, 0.8],
  ])
    await page.mouse.click(stage.x + stage.width * x, stage.y + stage.height * y);
  await press(page, 'lay it there');
  expect((await atWork(page, id)).way?.points).toHaveLength(3);
  // The dials stay there: gait… with a foot picked opens them as they are, and no key is called yours.
  await member(page, 'leg L').click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await press(page, 'gait…');
  await expect(page.getByRole('region', { name: 'Gait for Porter' }).getByLabel('character')).toHaveValue('heavy');
  await expect(shownBar(page)).not.toContainText('of yours');
  await shownBar(page).getByRole('button', { name: 'leave' }).click();
  await expect(shownBar(page)).toHaveCount(0);

  // 2. By hand instead: new clip, then put Contact, Down, Passing and Up on at 1, 4, 7 and 10 and key each time.
  await member(page, 'Porter').click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await press(page, 'new clip');
  await page.getByRole('tab', { name: 'poses' }).click();
  for (const [name, at] of FOUR) {
    await goTo(page, at);
    await press(page, `More about ${name}`);
    await page.getByRole('menuitem', { name: 'put on and key' }).click();
    // While it is made nothing is said of its halves.
    if (at < 10) await expect(page.getByText('is from its mirror image')).toHaveCount(0);
  }
  expect((await saved(page, id)).curves['porter-hips.turn.z'].keys.map((k) => k.frame)).toEqual(BOTH_STEPS);
  // hold the feet to the ground shows the feet standing, with the stride it measures as travel; keep ties the two.
  await page.getByRole('tab', { name: 'clips' }).click();
  await press(page, 'hold the feet to the ground');
  await expect(shownBar(page)).toContainText(/travels 1\.\d{3} m a cycle, as far as they go/);
  await shownBar(page).getByRole('button', { name: 'keep' }).click();
  const held = (await clipsOf(page, id)).find((c) => c.name === 'Clip')!;
  expect(Object.keys(held.stances)).toHaveLength(2);
  expect(held.travel).toBeCloseTo(1.312, 3);

  // 3. The cycle tab shows which foot is down when, to be dragged.
  await page.getByRole('tab', { name: 'cycle' }).click();
  await expect(page.getByRole('slider', { name: 'foot R is down' }).first()).toBeVisible();
});

test('now a character, by the keyboard alone', async ({ page }) => {
  const id = await openPractice(page);
  await findCommand(page, 'Pick Porter: hand L');
  await tabTo(page, channel(page, 'move x'), 'F6');
  await page.keyboard.press('Tab');
  await page.keyboard.type('0.3');
  await page.keyboard.press('Enter');
  let { members } = await saved(page, id);
  expect(members['porter-handL'].values['move.y']).toBe(0.3);
  await walkTo(page, 'Porter');
  await page.keyboard.press('Alt+0');
  const book = page.getByRole('list', { name: 'Pose book' });
  const pose = (name: string) => book.getByRole('button', { name: `Put ${name} on`, exact: true });
  await tabTo(page, pose('Contact'));
  await page.keyboard.press('Enter');
  ({ members } = await saved(page, id));
  const right = members['porter-footR'].values['move.z'];
  expect(right).toBeGreaterThan(0.3);
  // Slide how much for something between.
  await tabTo(page, page.getByLabel('How much of Contact'));
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByText('99 %')).toBeVisible();
  await page.keyboard.press('Shift+M');
  await expect
    .poll(async () => (await saved(page, id)).members['porter-footL'].values['move.z'])
    .toBeCloseTo(right * 0.99, 2);
  await page.keyboard.press('k');
  await expect(page.getByText('Porter’s pose is keyed. Its place on the stage is not')).toBeVisible();
  await page.keyboard.press('Escape');
  await findCommand(page, 'Pick Porter');
  await findFrame(page, 13);
  await page.keyboard.press('Alt+0');
  await tabTo(page, pose('Passing'));
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  const { curves } = await saved(page, id);
  expect(curves['porter-handL.move.z'].keys.map((k) => k.frame)).toEqual([1, 13]);
  // 4. Shift+Q on an arm turns it joint by joint instead, and back; Shift+T plants a hand or foot where it stands.
  await findCommand(page, 'Pick Porter: arm L');
  await page.keyboard.press('Shift+Q');
  await expect(page.getByRole('heading', { level: 2 }).filter({ hasText: 'arm' }).first()).toBeVisible();
  await page.keyboard.press('Shift+Q');
  await findCommand(page, 'Pick Porter: foot L');
  await page.keyboard.press('Shift+T');
  await expect(page.getByText('planted').first()).toBeVisible();
  // 5. take version 2… tells what comes and what no longer fits.
  await findCommand(page, 'Pick Porter');
  await findCommand(page, 'Show the channels');
  await tabTo(page, page.getByRole('button', { name: 'take version 2…' }));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog').getByRole('region', { name: 'comes in' })).toContainText('face: jaw, brow L');
});

test('now let it walk, by the keyboard alone', async ({ page }) => {
  // Some hundred presses, each waited for.
  test.setTimeout(240_000);
  const id = await openPractice(page);
  await findCommand(page, 'Pick Porter');
  await findCommand(page, 'Show the clips');
  const button = (name: string) => page.getByRole('button', { name, exact: true });
  const enter = async (name: string) => {
    await tabTo(page, button(name));
    await page.keyboard.press('Enter');
  };
  await enter('gait…');
  await tabTo(page, page.getByLabel('character'));
  await page.keyboard.type('heavy');
  await expect(shownBar(page)).toContainText(/\d+ keys come, on \d+ channels/);
  await page.keyboard.press('Escape');
  await expect(shownBar(page)).toHaveCount(0);
  await findCommand(page, 'Show the clips');
  await enter('gait…');
  await expect(shownBar(page)).toContainText(/\d+ keys come/);
  await page.keyboard.press('Enter');
  await expect(shownBar(page)).toHaveCount(0);
  await findCommand(page, 'Show the clips');
  await enter('over the stage');
  // A way is drawn in numbers where nobody points at the floor.
  await enter('draw a way');
  for (const [x, z] of [
    ['0', '0'],
    ['1', '1.5'],
    ['0', '3'],
  ]) {
    await tabTo(page, page.getByLabel('x of the next point'));
    await page.keyboard.type(x);
    await page.keyboard.press('Tab');
    await page.keyboard.type(z);
    await enter('put it');
  }
  await enter('lay it there');
  const walk = await atWork(page, id);
  expect(walk).toMatchObject({ name: 'Walk', travelling: true });
  expect(walk.way?.points).toHaveLength(3);
  await findCommand(page, 'New clip of the rig');
  for (const [name, at] of FOUR) {
    await findFrame(page, at);
    await page.keyboard.press('Alt+0');
    await tabTo(page, page.getByRole('button', { name: `Put ${name} on`, exact: true }));
    await page.keyboard.press('Enter');
    await page.keyboard.press('k');
  }
  expect((await saved(page, id)).curves['porter-hips.turn.z'].keys.map((k) => k.frame)).toEqual(BOTH_STEPS);
  await findCommand(page, 'Hold the feet to the ground');
  await expect(shownBar(page)).toContainText(/travels 1\.\d{3} m a cycle, as far as they go/);
  await page.keyboard.press('Enter');
  await expect(shownBar(page)).toHaveCount(0);
  await findCommand(page, 'Show the cycle');
  await expect(page.getByRole('slider', { name: 'foot R is down' }).first()).toBeVisible();
});
