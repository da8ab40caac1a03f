import { bounce, document as documentOf, openPractice } from '../desk.ts';
import { expect, type Locator, test } from '../test.ts';

/** Every number field of the desk, with what is no number or far out of range. */

const WRONG = ['1e9', '-1e9', '1e400', '..', '1..2', '--', '5*', '2/0', '(2', '+=', '1,2,3', '9'.repeat(40)];

/** What is no number, and what is far out of every range: of these each field is asked, whatever another with its limits did. */
const SOME = ['1e9', '..', '(2'];

/**
 * Puts what is wrong into every field that is in sight and was not seen yet: all twelve into the first of each kind, by unit and range,
 * and some into every other. In the page itself, since they are many: how hands do it is for `hands.spec`. Gives the fields that took
 * one, said nothing, or did not go back.
 */
async function tryAll(within: Locator, seen: Set<string>): Promise<string[]> {
  const { faults, met } = await within.evaluate(
    async (place, { before, wrong, some }) => {
      const known = new Set(before);
      const met: string[] = [];
      const faults: string[] = [];
      const later = () => new Promise((done) => setTimeout(done));
      const fields = place.querySelectorAll<HTMLInputElement>('input[data-number]:not(:disabled)');
      const isNew = (what: string) => {
        if (known.has(what)) return false;
        known.add(what);
        met.push(what);
        return true;
      };
      for (const field of fields) {
        const label = field.getAttribute('aria-label')!;
        if (!field.checkVisibility() || !isNew(label)) continue;
        const kind = `${label.split(', ')[1]} ${field.title.replace(/^.*?: /, '')}`;
        const press = async (key: string) => {
          field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
          await later();
        };
        const was = field.value;
        for (const text of isNew(kind) ? wrong : some) {
          field.focus();
          document.execCommand('insertText', false, text);
          await press('Enter');
          const sentence = document.querySelector('[role=alert]')?.textContent ?? '';
          if (field.getAttribute('aria-invalid') !== 'true') faults.push(`${label}: ${text} is taken`);
          else if (sentence.length < 20) faults.push(`${label}: ${text} only says “${sentence}”`);
          await press('Escape');
          if (field.value !== was) faults.push(`${label}: ${text} leaves ${field.value}`);
        }
      }
      return { faults, met };
    },
    { before: [...seen], wrong: WRONG, some: SOME },
  );
  for (const what of met) seen.add(what);
  return faults;
}

test('twelve wrong inputs into every number of a bouncing ball’s desk: refused with a sentence, nothing changes', async ({
  page,
}) => {
  const { id } = await bounce(page, 'Wrong numbers', [
    [1, 2],
    [13, 0.2],
    [21, 1],
    [29, 0.2],
  ]);
  const before = (await documentOf(page, id)).revision;
  const seen = new Set<string>();
  const faults: string[] = [];
  const whole = page.locator('main');
  const look = async (where: Locator = whole) => faults.push(...(await tryAll(where, seen)));
  await look();
  await page.getByRole('tab', { name: 'bounces' }).click();
  await look();
  await page.keyboard.press('Shift+E');
  await page.getByRole('tab', { name: 'curves' }).click();
  await look();
  await page.getByRole('tab', { name: /^checks/ }).click();
  await page.getByRole('button', { name: /what is watched/ }).click();
  await look();
  await page.keyboard.press('r');
  await look(page.getByRole('dialog', { name: 'Retime' }));
  await page.getByRole('dialog', { name: 'Retime' }).getByRole('button', { name: 'Close' }).click();
  await page.getByRole('tab', { name: /^kits/ }).click();
  for (const kit of ['Bounce', 'Roll', 'Squash from speed', 'Gather', 'Overshoot', 'Settle']) {
    await page.getByRole('button', { name: new RegExp(`^${kit}`) }).click();
    await look();
    const leave = page.getByRole('button', { name: 'leave', exact: true });
    if (await leave.isVisible()) await leave.click();
  }
  for (const command of ['frame rate', 'copies set out', 'thin redundant', 'make a movie']) {
    await page.keyboard.press('/');
    await page.keyboard.type(command);
    await expect(page.getByRole('option', { selected: true })).toContainText(new RegExp(command, 'i'));
    await page.keyboard.press('Enter');
    await expect(page.getByRole('dialog').first()).toBeVisible();
    await look(page.getByRole('dialog'));
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }
  expect(faults).toEqual([]);
  expect(seen.size).toBeGreaterThan(80);
  expect((await documentOf(page, id)).revision).toBe(before);
});

test('and into every number of a rig, its walk and its dials', async ({ page }) => {
  const id = await openPractice(page);
  await page.getByRole('treeitem', { name: 'Porter' }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'new clip' }).click();
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
  const before = (await documentOf(page, id)).revision;
  const seen = new Set<string>();
  const faults: string[] = [];
  const look = async () => faults.push(...(await tryAll(page.locator('main'), seen)));
  await look();
  await page.getByRole('treeitem', { name: 'leg L', exact: true }).first().click();
  await page.getByRole('tab', { name: 'channels' }).click();
  await look();
  await page.getByRole('treeitem', { name: 'Porter' }).click();
  await page.getByRole('tab', { name: 'clips' }).click();
  await page.getByRole('button', { name: 'gait…' }).click();
  for (const part of await page.locator('section[aria-label^="Gait"] summary').all())
    if (!(await part.evaluate((s) => (s.parentElement as HTMLDetailsElement).open))) await part.click();
  await look();
  await page.getByRole('button', { name: 'leave', exact: true }).click();
  expect(faults).toEqual([]);
  expect(seen.size).toBeGreaterThan(40);
  expect((await documentOf(page, id)).revision).toBe(before);
});
