import { bringIn, channel, goTo, member, newShot, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** The desk under real hands: keys pressed right after typing, wrong ones too, and nothing waited for that a person cannot see. */

const frame = (page: Page) => page.getByTestId('frame');
const alert = (page: Page) => page.getByRole('alert');

test('the first key: a number is typed, K is pressed, and that is keyed', async ({ page }) => {
  const id = await newShot(page, 'First key');
  await bringIn(page, 'ball');
  await channel(page, 'move y').click();
  await page.keyboard.type('2');
  await page.keyboard.press('k');
  let shot = await saved(page, id);
  const path = `${member(shot, 'ball').id}.move.y`;
  expect(shot.curves[path].keys.map((k) => [k.frame, k.value])).toEqual([[1, 2]]);
  // The hand has let go of the field: what follows is the desk's.
  await page.keyboard.press('ArrowRight');
  await expect(frame(page)).toHaveText('2');

  await goTo(page, 13);
  await channel(page, 'move y').click();
  await page.keyboard.type('0.5');
  await page.keyboard.press('Enter');
  await page.keyboard.press('k');
  shot = await saved(page, id);
  expect(shot.curves[path].keys.map((k) => [k.frame, k.value])).toEqual([
    [1, 2],
    [13, 0.5],
  ]);
});

test('Tab goes from number to number, and sums are reckoned', async ({ page }) => {
  const id = await newShot(page, 'Numbers');
  await bringIn(page, 'ball');
  await channel(page, 'move x').click();
  await page.keyboard.type('2*3');
  await page.keyboard.press('Tab');
  await page.keyboard.type('-1,5');
  await page.keyboard.press('Tab');
  await page.keyboard.type('4');
  await page.keyboard.press('Shift+Tab');
  await expect(channel(page, 'move y')).toBeFocused();
  await page.keyboard.type('+=0.25');
  await page.keyboard.press('Enter');
  const ball = member(await saved(page, id), 'ball');
  expect(ball.values).toMatchObject({ 'move.x': 6, 'move.y': -1.25, 'move.z': 4 });
});

test('what is no number or out of range is refused with its sentence, and stays to be mended', async ({ page }) => {
  const id = await newShot(page, 'Refused');
  await bringIn(page, 'ball');
  const before = await saved(page, id);
  const field = channel(page, 'move y');
  await field.click();
  await page.keyboard.type('1e9');
  await page.keyboard.press('Enter');
  await expect(alert(page)).toHaveText('1,000,000,000 m is too much: from −10,000 to 10,000 m it may be.');
  await expect(field).toBeFocused();
  // A key that is not the number's does not slip past it.
  await page.keyboard.press('k');
  await expect(alert(page)).toBeVisible();
  expect(await saved(page, id)).toEqual(before);
  await page.keyboard.type('3');
  await page.keyboard.press('Enter');
  await expect(alert(page)).toHaveCount(0);
  expect(member(await saved(page, id), 'ball').values['move.y']).toBe(3);
});

test('a last frame of a thousand million, or before the first, is refused, and the page goes on', async ({ page }) => {
  const id = await newShot(page, 'Last frame');
  const last = page.getByLabel('Last frame of the shot');
  for (const [typed, sentence] of [
    ['1e9', '1,000,000,000 is too much: whole numbers from 1 to 200,000 it may be.'],
    ['-5', '−5 is too little: whole numbers from 1 to 200,000 it may be.'],
    ['47.5', '47.5 is not whole: whole numbers from 1 to 200,000 it may be.'],
  ]) {
    await last.click();
    await page.keyboard.type(typed);
    await page.keyboard.press('Enter');
    await expect(alert(page)).toHaveText(sentence);
    await page.keyboard.press('Escape');
    await expect(last).toHaveValue('96');
  }
  expect((await saved(page, id)).range).toEqual({ first: 1, last: 96 });
  // As many as a shot may have, and nothing stands still.
  await last.click();
  await page.keyboard.type('200000');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
  await page.keyboard.press('ArrowRight');
  await expect(frame(page)).toHaveText('2');
  await page.keyboard.press('Control+z');
  await expect(last).toHaveValue('96');
});

test('time’s keys are time’s: after a press on a button, a row of the cast, a tab', async ({ page }) => {
  await newShot(page, 'Time’s keys');
  await bringIn(page, 'ball');
  await bringIn(page, 'box');
  await goTo(page, 7);
  await page.getByRole('treeitem', { name: 'Ball' }).click();
  await page.keyboard.press('Home');
  await expect(frame(page)).toHaveText('1');
  await expect(page.getByRole('treeitem', { name: 'Ball' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('ArrowRight');
  await expect(frame(page)).toHaveText('2');
  await page.getByRole('tab', { name: 'curves' }).click();
  await page.keyboard.press('ArrowRight');
  await expect(frame(page)).toHaveText('3');
  await expect(page.getByRole('tab', { name: 'curves' })).toHaveAttribute('aria-selected', 'true');
  const arcs = page.getByRole('button', { name: 'arcs', exact: true });
  const were = await arcs.getAttribute('aria-pressed');
  await arcs.click();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(arcs).not.toHaveAttribute('aria-pressed', were!);
  await page.keyboard.press('Space');
  // Who walks the tabs by the keyboard has its arrows.
  await page.getByRole('tab', { name: 'curves' }).press('Tab');
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('tab', { name: 'sheet' })).toHaveAttribute('aria-selected', 'true');
});

test('Delete is for keys: the cast stays, and it is said when there is nothing to delete', async ({ page }) => {
  const id = await newShot(page, 'Delete');
  await bringIn(page, 'ball');
  await channel(page, 'move y').click();
  await page.keyboard.type('1');
  await page.keyboard.press('k');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await expect(page.getByText('No key is picked')).toBeVisible();
  let shot = await saved(page, id);
  expect(Object.keys(shot.members)).toHaveLength(1);
  const { length } = Object.keys(shot.curves);
  expect(length).toBeGreaterThan(1);
  // A picked channel loses its keys.
  await page.getByRole('button', { name: 'Pick move y' }).click();
  await page.keyboard.press('Delete');
  shot = await saved(page, id);
  expect(Object.keys(shot.curves)).toHaveLength(length - 1);
  expect(shot.curves[`${member(shot, 'ball').id}.move.y`]).toBeUndefined();
  await page.keyboard.press('Shift+Delete');
  expect((await saved(page, id)).members).toEqual({});
});
