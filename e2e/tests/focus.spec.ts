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

/** A key that was pressed: what had the focus before it, and the commands it gave. */
interface Pressed {
  readonly focus: string;
  readonly did: readonly string[];
}

/** Holds every command back and notes, for each key that is pressed, which it would have been. */
const holdBack = (page: Page) =>
  page.evaluate(() => {
    const pressed: { focus: string; did: string[] }[] = [];
    const focus = () => {
      const { activeElement: at } = document;
      return `${at?.tagName} ${at?.getAttribute('aria-label')} ${at?.className}`;
    };
    Object.assign(globalThis, { noted: () => ({ pressed: pressed.splice(0), focus: focus() }) });
    const note = (event: KeyboardEvent) => {
      if (!['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) pressed.push({ focus: focus(), did: [] });
    };
    addEventListener('keydown', note, true);
    addEventListener('command', (event) => {
      pressed.at(-1)?.did.push((event as CustomEvent<string>).detail);
      event.preventDefault();
    });
  });
/** The keys that were pressed since, and what has the focus. */
const noted = (page: Page) =>
  page.evaluate(() => (globalThis as unknown as { noted: () => { pressed: Pressed[]; focus: string } }).noted());

/** As many keys at most are pressed before one looks what they did. */
const MOST = 12;

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
    const isOwn = (keys: string) => own === 'all' || own?.test(keys) === true;
    // Text is left by these; the browser opens a menu of its own by the last where ours is held back.
    const isElsewhere = (keys: string) => own === 'all' && /^(F\d+|Escape|Enter|Shift\+F\d+)$/.test(keys);
    // Enter keeps what is shown, and nothing is.
    let left = list.filter((c) => !isElsewhere(c.keys) && c.keys !== 'Shift+F10' && c.id !== 'trial.keep');
    let run = MOST;
    while (left.length > 0) {
      await go();
      const { focus: at } = await noted(page);
      // What a place has for itself may leave it, and so do the keys that go from panel to panel: each is the last before a look.
      const leaves = left.findIndex(({ keys }) => (own !== 'all' && isOwn(keys)) || /^(Shift\+)?F\d+$/.test(keys));
      const some = left.slice(0, leaves < 0 ? run : Math.min(run, leaves + 1));
      for (const { keys } of some) await page.keyboard.press(pressedAs(keys));
      const { pressed } = await noted(page);
      // Of a place that was left before, nothing is known yet.
      const there = pressed.findIndex(({ focus }) => focus !== at);
      const looked = some.slice(0, there < 0 ? some.length : there);
      for (const [i, { id: command, keys }] of looked.entries()) {
        const did = pressed[i]?.did ?? [];
        if (!(did.length === 1 && did[0] === command) && !(isOwn(keys) && did.length === 0))
          wrong.push(`${keys} in ${name}: ${did.join(', ') || 'nothing'} and not ${command}`);
      }
      expect(looked.length, `${some[0].keys} is pressed in ${name}`).toBeGreaterThan(0);
      left = left.slice(looked.length);
      run = looked.length < some.length ? looked.length : Math.min(MOST, run * 2);
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
  }
  given.push(...(await noted(page)).pressed.flatMap(({ did }) => did));
  expect(given).toEqual([]);
});
