import { bringIn, document, newShot, saved, setChannel } from '../desk.ts';
import { expect, test } from '../test.ts';

test('a formula is typed with help, says where it is wrong, and is kept in one step', async ({ page }) => {
  const id = await newShot(page, 'Formula');
  await bringIn(page, 'ball');
  await page.getByRole('tab', { name: 'formula' }).click();
  const field = page.getByRole('textbox', { name: 'Formula', exact: true });
  await field.pressSequentially('wa');
  await expect(page.getByRole('option', { name: /^wave\(strength, period, shift\)/ })).toBeVisible();
  await field.press('Tab');
  await field.pressSequentially('0.5, 24');
  await expect(field).toHaveValue('wave(0.5, 24)');
  await field.fill('wave(0.5, 24) + sway');
  await expect(page.getByText('Character 17: nothing here is called sway')).toBeVisible();
  expect((await saved(page, id)).curves).toEqual({});
  await field.fill('wave(0.5, 24)');
  await field.press('Enter');
  await expect.poll(async () => formulas(await raw(page, id))).toEqual(['wave(0.5, 24)']);
  await page.getByRole('tab', { name: 'channels' }).click();
  await expect(page.getByRole('button', { name: 'move y is computed; show its formula' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(async () => formulas(await raw(page, id))).toEqual([]);
});

test('inputs are picked from the cast, waves dragged and fitted, and all of it turned into keys', async ({ page }) => {
  const id = await newShot(page, 'Inputs');
  await bringIn(page, 'ball');
  await setChannel(page, 'move x', 2);
  await page.getByRole('tab', { name: 'formula' }).click();
  await page.getByRole('button', { name: 'add an input…' }).click();
  await page.getByLabel('Which channel').selectOption({ label: 'move x' });
  const field = page.getByRole('textbox', { name: 'Formula', exact: true });
  await field.fill('ball_x + wave(0.2, 25)');
  await field.press('Enter');
  await expect.poll(async () => formulas(await raw(page, id))).toEqual(['ball_x + wave(0.2, 25)']);
  const name = page.getByLabel('Name of the input ball_x');
  await name.fill('x');
  await name.press('Enter');
  await expect(field).toHaveValue('x + wave(0.2, 25)');
  await page.getByRole('button', { name: 'fit to' }).click();
  await expect(field).toHaveValue('x + wave(0.2, 24)');
  const handle = page.getByRole('slider', { name: /^Strength and period/ });
  // Come to by the keyboard it has the arrows.
  await page.keyboard.press('Tab');
  await handle.focus();
  await page.keyboard.press('ArrowRight');
  await expect(field).toHaveValue('x + wave(0.2, 24.5)');
  await page.getByRole('button', { name: 'turn into keys' }).click();
  await expect
    .poll(async () => Object.values((await saved(page, id)).curves).map((c) => c.keys.length > 4))
    .toEqual([true]);
  expect(formulas(await raw(page, id))).toEqual([]);
});

test('a ring of formulas is refused with the names of all in it', async ({ page }) => {
  const id = await newShot(page, 'Ring');
  await bringIn(page, 'ball');
  await page.getByRole('tab', { name: 'formula' }).click();
  const field = page.getByRole('textbox', { name: 'Formula', exact: true });
  const read = async (of: string, from: string, text: string) => {
    await page.getByLabel('Channel', { exact: true }).selectOption({ label: of });
    await page.getByRole('button', { name: 'add an input…' }).click();
    await page.getByLabel('Which channel').selectOption({ label: from });
    await field.fill(text);
    await field.press('Enter');
  };
  await read('move y', 'move x', 'ball_x + 1');
  await expect.poll(async () => formulas(await raw(page, id)).length).toBe(1);
  await read('move x', 'move y', 'ball_y + 1');
  await expect(page.getByText(/goes round in a circle: .*move x of Ball.*move y of Ball/)).toBeVisible();
  expect(formulas(await raw(page, id))).toHaveLength(1);
});

async function raw(page: import('../test.ts').Page, id: string) {
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
  return (await document(page, id)) as unknown as { document: { formulas: Record<string, { text: string }> } };
}

const formulas = ({ document }: { document: { formulas: Record<string, { text: string }> } }) =>
  Object.values(document.formulas).map((f) => f.text);
