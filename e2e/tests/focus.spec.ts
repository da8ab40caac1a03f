import { bringIn, channel, newShot, saved } from '../desk.ts';
import { expect, type Page, test } from '../test.ts';

/** Who gets a key, for every shortcut there is, wherever the focus can be. */

/** The shortcuts, as their sheet lists them. */
async function shortcuts(page: Page): Promise<{ id: string; keys: string }[]> {
  await page.keyboard.press('?');
  const dialog = page.getByRole('dialog', { name: /shortcuts/i });
  await expect(dialog).toBeVisible();
  const list = await dialog
    .locator('[data-command]')
    .evaluateAll((rows) =>
      rows.map((row) => ({ id: row.getAttribute('data-command')!, keys: row.getAttribute('data-keys')! })),
    );
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
  return list.filter(({ keys }) => keys !== '');
}

/** A shortcut as the browser's keyboard is told it. */
const pressedAs = (keys: string): string => {
  const names: Record<string, string> = { '←': 'ArrowLeft', '→': 'ArrowRight', '↑': 'ArrowUp', '↓': 'ArrowDown' };
  const parts = keys === '+' ? ['+'] : keys.split('+');
  const last = parts.pop()!;
  return [...parts.map((p) => (p === 'Ctrl' ? 'Control' : p)), names[last] ?? last].join('+');
};

/** Holds every command back and notes which it would have been. */
const holdBack = (page: Page) =>
  page.evaluate(() => {
    const noted: string[] = [];
    Object.assign(globalThis, { noted });
    addEventListener('command', (event) => {
      noted.push((event as CustomEvent<string>).detail);
      event.preventDefault();
    });
  });
/** What has been noted since, and what has the focus. */
const looked = (page: Page) =>
  page.evaluate(() => {
    const { activeElement: at } = document;
    const focus = `${at?.tagName} ${at?.getAttribute('aria-label')} ${at?.className}`;
    return { did: (globalThis as unknown as { noted: string[] }).noted.splice(0), focus };
  });
const noted = async (page: Page) => (await looked(page)).did;

/** Keys a place has for itself, by what it is. */
const NUMBER = /^(Backspace|Delete|Enter|Escape|[↑↓]|Shift\+[↑↓]|Alt\+[↑↓]|Shift\+Delete|[-+=.,/*()0-9])$/;
const LIST = /^(Enter|[↑↓←→]|Home|End|Space|Shift\+[↑↓])$/;
const BUTTON = /^(Enter|Space)$/;

test('every shortcut does what its sheet says, or nothing, wherever the focus is', async ({ page }) => {
  test.setTimeout(240_000);
  const id = await newShot(page, 'Every shortcut');
  await bringIn(page, 'ball');
  await bringIn(page, 'box');
  const list = await shortcuts(page);
  expect(list.length).toBeGreaterThan(120);
  const before = await saved(page, id);
  await holdBack(page);
  const places: { name: string; go: () => Promise<void>; own: RegExp | 'all' | null }[] = [
    { name: 'nowhere', go: () => page.evaluate(() => (document.activeElement as HTMLElement)?.blur()), own: null },
    {
      name: 'a number',
      go: async () => {
        await page.keyboard.press('Escape');
        await noted(page);
        await channel(page, 'move y').focus();
      },
      own: NUMBER,
    },
    { name: 'text', go: () => page.getByLabel('Find rows').focus(), own: 'all' },
    {
      name: 'a list come to by Tab',
      go: async () => {
        await page.evaluate(() => document.querySelector<HTMLElement>('[data-explained=Cast] button')?.focus());
        await page.keyboard.press('Tab');
        await expect(page.getByRole('tree')).toBeFocused();
      },
      own: LIST,
    },
    {
      name: 'a list that was pressed',
      go: () => page.getByRole('treeitem', { name: 'Ball' }).click(),
      own: /^(Enter|[↑↓]|Shift\+[↑↓])$/,
    },
    { name: 'a button that was pressed', go: () => page.getByRole('tab', { name: 'channels' }).click(), own: null },
    {
      name: 'a button come to by Tab',
      go: async () => {
        // Enter and Space have opened its menu.
        await page.keyboard.press('Escape');
        await expect(page.getByRole('menu')).toHaveCount(0);
        await noted(page);
        await page.getByRole('button', { name: 'bring in…' }).focus();
        await page.keyboard.press('Shift+Tab');
        await page.keyboard.press('Tab');
      },
      own: BUTTON,
    },
    {
      name: 'the sheet',
      go: async () => {
        const box = (await page.getByTestId('sheet').boundingBox())!;
        await page.mouse.click(box.x + 40, box.y + box.height - 8);
      },
      own: null,
    },
    {
      name: 'the stage',
      go: async () => {
        const box = (await page.getByTestId('stage').boundingBox())!;
        await page.mouse.click(box.x + box.width - 30, box.y + 90);
      },
      own: null,
    },
  ];
  const wrong: string[] = [];
  for (const { name, go, own } of places) {
    await go();
    const { focus: at } = await looked(page);
    for (const { id: command, keys } of list) {
      // Text is left by these; the browser opens a menu of its own by the last where ours is held back.
      if (own === 'all' && /^(F\d+|Escape|Enter|Shift\+F\d+)$/.test(keys)) continue;
      if (keys === 'Shift+F10') continue;
      // Enter keeps what is shown, and nothing is.
      if (command === 'trial.keep') continue;
      await page.keyboard.press(pressedAs(keys));
      const { did, focus } = await looked(page);
      const isIt = did.length === 1 && did[0] === command;
      const isOwn = own === 'all' || own?.test(keys) === true;
      if (!isIt && !(isOwn && did.length === 0))
        wrong.push(`${keys} in ${name}: ${did.join(', ') || 'nothing'} and not ${command}`);
      // A place that a key has left is gone back to.
      if (focus !== at || isOwn || /^(Shift\+)?F\d+$/.test(keys)) await go();
    }
  }
  expect(wrong).toEqual([]);
  expect((await saved(page, id)).members).toEqual(before.members);
});

test('a dialog has all keys: no command is given while one is open', async ({ page }) => {
  await newShot(page, 'Dialogs have keys');
  const list = await shortcuts(page);
  await holdBack(page);
  await page.getByRole('button', { name: 'Make a movie, a picture or a contact sheet' }).click();
  await expect(page.getByRole('dialog', { name: 'Movie, picture, contact sheet' })).toBeVisible();
  const given: string[] = [];
  for (const { keys } of list) {
    if (['Escape', 'Enter', 'Space'].includes(keys)) continue;
    await page.keyboard.press(pressedAs(keys));
    given.push(...(await noted(page)));
  }
  expect(given).toEqual([]);
});
