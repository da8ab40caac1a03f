import { expect, type Locator, type Page } from './test.ts';

/** The desk as a person uses it, and the document as the server has it. */

export interface KeyOut {
  readonly frame: number;
  readonly value: number;
  readonly in: { readonly kind: string; readonly frames?: number };
  readonly out: { readonly kind: string; readonly rise?: number; readonly frames?: number };
  readonly joined: boolean;
  readonly role: string;
}
export interface ShotOut {
  readonly revision: number;
  readonly document: {
    readonly id: string;
    readonly name: string;
    readonly rate: number;
    readonly range: { first: number; last: number };
    readonly play: { first: number; last: number };
    readonly members: Record<
      string,
      { id: string; name: string; kind: string; parent: string | null; values: Record<string, number>; locked: boolean }
    >;
    readonly curves: Record<string, { keys: KeyOut[]; before: string; after: string }>;
    readonly loose: Record<string, { frame: number; value: number }[]>;
    readonly sets: Record<string, { name: string; paths: string[] }>;
  };
}

/** Writes over the API; whoever does says so. */
const post = (page: Page, path: string, data?: unknown) =>
  page.request.post(path, { data, headers: { 'x-varrup': 'test' } });

/** A new shot of its own for a test, made over the API and opened in the browser. */
export async function newShot(page: Page, name: string): Promise<string> {
  const production = await post(page, '/api/productions', { name: `For ${name}` });
  const { id } = await production.json();
  const made = await post(page, `/api/productions/${id}/shots`, { name });
  const shot = (await made.json()).id as string;
  await openShot(page, shot);
  return shot;
}

export async function openShot(page: Page, id: string): Promise<void> {
  await page.goto(`/shots/${id}`);
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
  // Five hundred bodies drawn for the first time without a graphics card take their while beside another test.
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible({ timeout: 60_000 });
}

/** The list of productions, searched for one of them: what is out of sight is not there. */
export async function openHome(page: Page, production = 'Night Ferry'): Promise<void> {
  await page.goto('/');
  await page.getByLabel('Search productions and shots').fill(production);
  await expect(page.getByRole('region', { name: production, exact: true }).first()).toBeVisible();
}

/** A copy of a demo shot, so that the demo stays as it is. */
export async function openCopy(page: Page, name: string): Promise<string> {
  const { shots } = await (await page.request.get(`/api/shots?search=${encodeURIComponent(name)}`)).json();
  const demo = shots.find((s: { name: string }) => s.name === name);
  const copy = await (await post(page, `/api/shots/${demo.id}/duplicate`)).json();
  await openShot(page, copy.id);
  return copy.id;
}

/** A copy of the practice floor. */
export const openPractice = (page: Page): Promise<string> => openCopy(page, '00 Practice floor');

/** Waits until everything is committed, and gives what the server holds. */
export async function saved(page: Page, id: string): Promise<ShotOut['document']> {
  await expect(page.getByTestId('save-state')).toHaveAttribute('data-state', 'saved');
  return (await document(page, id)).document;
}

export async function document(page: Page, id: string): Promise<ShotOut> {
  const { edits, ...shot } = await (await page.request.get(`/api/shots/${id}`)).json();
  // The server gives its newest snapshot and the edits since.
  for (const { patches } of edits as { patches: Patch[] }[]) for (const patch of patches) apply(shot.document, patch);
  return shot;
}

interface Patch {
  readonly op: 'add' | 'replace' | 'remove';
  readonly path: string;
  readonly value?: unknown;
}

/** A patch (RFC 6902), put into a document in place. */
function apply(document: object, { op, path, value }: Patch): void {
  const keys = path.slice(1).split('/');
  const last = keys.pop()!;
  const at = keys.reduce((part, key) => (part as Record<string, never>)[key], document) as Record<string, unknown>;
  if (Array.isArray(at)) at.splice(Number(last), op === 'add' ? 0 : 1, ...(op === 'remove' ? [] : [value]));
  else if (op === 'remove') delete at[last];
  else at[last] = value;
}

export async function bringIn(page: Page, kind: string): Promise<void> {
  await page.getByRole('button', { name: 'bring in…' }).click();
  await page.getByRole('menuitem', { name: kind, exact: true }).click();
  await expect(page.getByRole('region', { name: 'Beside the stage' }).getByRole('heading', { level: 2 })).toHaveText(
    new RegExp(kind, 'i'),
  );
}

/** A field of the channels panel. */
export const channel = (page: Page, name: string) =>
  page
    .getByRole('region', { name: 'Beside the stage' })
    .locator(`input[aria-label="${name}"], input[aria-label^="${name},"]`);

export async function setChannel(page: Page, name: string, value: number): Promise<void> {
  const field = channel(page, name);
  await field.click();
  await field.fill(String(value));
  await field.press('Enter');
}

/** Goes to a frame with a press on the ruler. */
export async function goTo(page: Page, frame: number): Promise<void> {
  const box = (await timing(page).boundingBox())!;
  await page.mouse.click(box.x + (await frameX(page, frame)), box.y + 8);
  await expect(page.getByTestId('frame')).toHaveText(String(frame));
}

/** Presses a key, Tab or F6 mostly, until something has the focus, or is as it is expected to be. */
export async function tabTo(
  page: Page,
  target: Locator,
  key = 'Tab',
  isThere = (found: Element[]) => found.some((element) => element === element.ownerDocument.activeElement),
): Promise<void> {
  for (let pressed = 0; pressed < 150; pressed++) {
    if (await target.evaluateAll(isThere)) return;
    await page.keyboard.press(key);
  }
  throw new Error(`${key} does not lead to ${target}.`);
}

/** Finds a command by plain words, and does it. */
export async function findCommand(page: Page, words: string): Promise<void> {
  await page.keyboard.press('/');
  await expect(page.getByPlaceholder(/what do you want/)).toBeFocused();
  await page.keyboard.type(words);
  await expect(page.getByRole('dialog').getByRole('option', { selected: true })).toContainText(new RegExp(words, 'i'));
  await page.keyboard.press('Enter');
  await expect(page.getByPlaceholder(/what do you want/)).toHaveCount(0);
}

export const timing = (page: Page) => page.locator('[data-testid=sheet], [data-testid=curves]');

/**
 * Where a frame is along the sheet or the curves, in pixels from its left. A fresh shot shows frames 1 to 96 with a
 * margin of three in a hundred on both sides, and stays so until it is zoomed.
 */
export async function frameX(page: Page, frame: number): Promise<number> {
  const { width } = (await timing(page).boundingBox())!;
  const [first, last] = [1 - 95 * 0.03, 96 + 95 * 0.03];
  return ((frame - first) / (last - first)) * width;
}

/** A place on the sheet: the middle of a row, counted from 0, at a frame. */
export async function sheetPlace(page: Page, row: number, frame: number): Promise<{ x: number; y: number }> {
  const box = (await timing(page).boundingBox())!;
  return { x: box.x + (await frameX(page, frame)), y: box.y + 26 + row * 24 + 12 };
}

export async function dragMouse(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
}

/** A ball with keys on its height, by default up at 1, down at 13, up at 25. Gives the shot and the channel's path. */
export async function bounce(
  page: Page,
  name: string,
  keys: readonly (readonly [frame: number, height: number])[] = [
    [1, 2],
    [13, 0.2],
    [25, 1],
  ],
): Promise<{ id: string; path: string }> {
  const made = await keyedBall(page, name, keys, 'Ball');
  await goTo(page, keys[keys.length - 1][0]);
  return made;
}

/** The frames of a channel's keys, once they are committed. */
export const framesOf = async (page: Page, id: string, path: string): Promise<number[]> =>
  (await saved(page, id)).curves[path].keys.map((k) => k.frame);

/** A field for a number, typed into and taken over. */
export async function type(page: Page, label: string, value: number): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(String(value));
  await field.press('Enter');
}

/** A new shot made of a document, opened in the browser. */
export async function openDocument(page: Page, name: string, document: unknown): Promise<string> {
  const production = await post(page, '/api/productions', { name: `For ${name}` });
  const { id } = await production.json();
  const made = await post(page, `/api/productions/${id}/shots`, { name, document });
  expect(made.status()).toBe(201);
  const shot = (await made.json()).id as string;
  await openShot(page, shot);
  return shot;
}

/** A ball with smooth keys on its height, made over the API and picked. Gives the shot and the channel's path. */
export async function keyedBall(
  page: Page,
  name: string,
  keys: readonly (readonly [frame: number, height: number])[],
  called = 'Float',
): Promise<{ id: string; path: string }> {
  const smooth = { kind: 'smooth' };
  const id = await openDocument(page, name, {
    version: 4,
    id: 'made-for-a-test',
    name,
    rate: 24,
    range: { first: 1, last: 96 },
    play: { first: 1, last: 96 },
    members: { float: { id: 'float', name: called, kind: 'ball', parent: null, rank: 1, shape: {} } },
    curves: {
      'float.move.y': {
        type: 'number',
        keys: keys.map(([frame, value]) => ({ frame, value, in: smooth, out: smooth, joined: true, role: 'key' })),
      },
    },
    sets: {},
    formulas: {},
    recipes: {},
    sounds: {},
    watch: { tolerances: {}, ignored: [] },
    aside: {},
  });
  await page.getByRole('treeitem', { name: called }).click();
  return { id, path: 'float.move.y' };
}

/** The one member of a kind. */
export const member = (shot: ShotOut['document'], kind: string) =>
  Object.values(shot.members).find((m) => m.kind === kind)!;

/** A part of the stage, as shares of its width and height. */
export interface Part {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** On the practice floor the porter stands in the middle, its left hand to the right of that. */
const BY_THE_HAND: Part = { left: 0.55, right: 0.66, top: 0.42, bottom: 0.62 };

/** Lays the pointer on a control of the rigs, wherever the stage draws it. */
export async function pointAt(page: Page, words: string, within = BY_THE_HAND): Promise<{ x: number; y: number }> {
  const box = (await page.getByTestId('stage').boundingBox())!;
  const note = page.getByTestId('bead-note');
  for (let y = box.y + box.height * within.top; y < box.y + box.height * within.bottom; y += 9) {
    for (let x = box.x + box.width * within.left; x < box.x + box.width * within.right; x += 9) {
      await page.mouse.move(x, y);
      if ((await note.count()) > 0 && (await note.textContent()) === words) return { x, y };
    }
  }
  throw new Error(`Nothing on the stage is called ${words}.`);
}

/** A PNG of one colour, drawn by the browser itself. */
export async function pngOf(page: Page, width: number, height: number, colour: string): Promise<Buffer> {
  const address = await page.evaluate(
    ([w, h, fill]) => {
      const canvas = globalThis.document.createElement('canvas');
      [canvas.width, canvas.height] = [w, h];
      const pencil = canvas.getContext('2d')!;
      pencil.fillStyle = fill;
      pencil.fillRect(0, 0, w, h);
      return canvas.toDataURL('image/png');
    },
    [width, height, colour] as const,
  );
  return Buffer.from(address.slice(address.indexOf(',') + 1), 'base64');
}
