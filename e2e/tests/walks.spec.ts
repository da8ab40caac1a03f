import AxeBuilder from '@axe-core/playwright';
import { document, goTo, openPractice } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

interface Clip {
  readonly name: string;
  readonly length: number;
  readonly travel: number;
  readonly travelling: boolean;
  readonly halves: string;
  readonly way: { points: unknown[] } | null;
  readonly kept: unknown;
  readonly stances: Record<string, { from: number; to: number }[]>;
}

interface Walked {
  readonly clips: Record<string, Clip>;
  readonly curves: Record<string, { keys: { frame: number }[] }>;
}

/** The clip at work and its keys, as the server has them. */
async function walkOf(page: Page, id: string) {
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
  const { document: shot } = (await document(page, id)) as unknown as { document: Walked };
  const clip = Object.values(shot.clips).find((c) => c.kept === null)!;
  const frames = (path: string) => (shot.curves[path]?.keys ?? []).map((k) => k.frame);
  return { clip, frames };
}

/** The porter of the practice floor, picked, with its clips beside the stage. */
async function porter(page: Page): Promise<string> {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'Porter' }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  return id;
}

test('a walk out of dials: heavier, with a limp, over the stage; its steps are moved on the chart', async ({
  page,
}) => {
  const id = await porter(page);
  await page.getByRole('button', { name: 'gait…' }).click();
  await page.getByLabel('character').selectOption('heavy');
  await page.getByText('weight', { exact: true }).click();
  await page.getByLabel('limp', { exact: true }).fill('-60');
  await page.getByLabel('limp', { exact: true }).press('Tab');
  await page.getByRole('button', { name: 'keep', exact: true }).click();
  const limping = await walkOf(page, id);
  expect(limping.clip).toMatchObject({ name: 'Walk', length: 30, halves: 'free', travelling: false });
  const stood = (foot: string) => limping.clip.stances[foot][0].to - limping.clip.stances[foot][0].from;
  expect(stood('footL')).toBeLessThan(stood('footR'));
  // The four poses are a row of stills, and nothing is wrong with any of them.
  const strip = page.getByRole('navigation', { name: 'Pose strip' });
  await expect(strip.getByRole('button', { name: /pose at frame/ })).toHaveCount(9);
  await expect(strip.getByRole('button', { name: 'down pose at frame 5' })).toBeVisible();
  await expect(page.getByRole('tab', { name: /checks.*nothing found/ })).toBeVisible();

  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'over the stage' }).click();
  expect((await walkOf(page, id)).clip.travelling).toBe(true);
  await page.getByRole('tab', { name: 'cycle' }).click();
  const foot = page.getByRole('slider', { name: 'foot R is down' }).first();
  await foot.press('Alt+ArrowRight');
  const moved = await walkOf(page, id);
  expect(moved.clip.stances.footR[0].from).toBe(limping.clip.stances.footR[0].from + 1);
  expect(moved.clip.stances.footL).toEqual(limping.clip.stances.footL);
  await expect(page.getByRole('img', { name: 'height over the cycle' })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations).toEqual([]);
  await page.keyboard.press('Control+z');
  expect((await walkOf(page, id)).clip.stances).toEqual(limping.clip.stances);

  // A way with a bend, drawn on the floor; the walk follows it, limp and all.
  await page.getByRole('button', { name: 'draw a way' }).click();
  const stage = (await page.getByTestId('stage').boundingBox())!;
  for (const [x, y] of [
    [0.3, 0.8],
    [0.5, 0.92],
    [0.7, 0.8],
  ])
    await page.mouse.click(stage.x + stage.width * x, stage.y + stage.height * y);
  await page.keyboard.press('Enter');
  const laid = await walkOf(page, id);
  expect(laid.clip.way?.points).toHaveLength(3);
  expect(laid.clip.stances).toEqual(limping.clip.stances);
  await expect(page.getByRole('tab', { name: /checks.*nothing found/ })).toBeVisible();
});

test('a walk by hand: four poses make both steps, and the feet are held to the ground', async ({ page }) => {
  const id = await porter(page);
  await page.getByRole('button', { name: 'new clip' }).click();
  await page.getByRole('tab', { name: 'poses' }).click();
  for (const [name, frame] of [
    ['Contact', 1],
    ['Down', 4],
    ['Passing', 7],
    ['Up', 10],
  ] as const) {
    await goTo(page, frame);
    await page.getByRole('button', { name: `Put ${name} on`, exact: true }).click();
    await page.getByTestId('stage').press('k');
  }
  const posed = await walkOf(page, id);
  expect(posed.frames('porter-hips.turn.z')).toEqual([1, 4, 7, 10, 13, 16, 19, 22, 25]);
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'hold the feet to the ground' }).click();
  await page.keyboard.press('Enter');
  const held = await walkOf(page, id);
  expect(held.clip.stances.footR[0].from).toBe(0);
  expect(held.clip.stances.footL[0].from).toBe(12);
  expect(held.clip.travel).toBeGreaterThan(1);

  // Undo is the shot's, also with the field still in hand that was typed into.
  const begins = page.getByLabel('begins at frame');
  await begins.fill('13');
  await begins.press('Enter');
  expect((await walkOf(page, id)).frames('porter-hips.turn.z')[0]).toBe(13);
  await begins.press('Control+z');
  expect((await walkOf(page, id)).frames('porter-hips.turn.z')[0]).toBe(1);
});
