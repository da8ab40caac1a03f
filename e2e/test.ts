import { type BrowserContext, test as base, type Page } from '@playwright/test';

export { expect, type Locator, type Page } from '@playwright/test';

interface Options {
  /**
   * The stage is sketched, with a sixteenth of its points and no shadows, and no small pictures are made, where the picture is not
   * what is tested: drawing it without a graphics card is what takes their time. A file whose tests look at pictures says
   * `test.use({ sketch: false })`.
   */
  readonly sketch: boolean;
  /** The page is the one its worker's tests have one after another. A file whose tests have several windows says `false`. */
  readonly kept: boolean;
}

/** Tests of the desk. Each begins in a browser that has never seen Varrup, so none needs another before it. */
export const test = base.extend<Options, { keptPage: Page }>({
  sketch: [true, { option: true }],
  kept: [true, { option: true }],

  keptPage: [
    async ({ browser }, use, { project }) => {
      const { baseURL, viewport, actionTimeout } = project.use;
      const context = await browser.newContext({ baseURL, viewport });
      if (actionTimeout) context.setDefaultTimeout(actionTimeout);
      await context.addInitScript(undrawn);
      await use(await context.newPage());
      await context.close();
    },
    { scope: 'worker' },
  ],

  context: async ({ browser, kept, keptPage, sketch, baseURL, viewport, actionTimeout }, use) => {
    const context = kept ? keptPage.context() : await browser.newContext({ baseURL, viewport });
    if (kept) await forget(keptPage);
    else if (actionTimeout) context.setDefaultTimeout(actionTimeout);
    if (sketch) await sketched(context, kept ? keptPage : null);
    await use(context);
    if (!kept) await context.close();
  },

  page: async ({ context, kept, keptPage }, use) => {
    await use(kept ? keptPage : await context.newPage());
  },
});

const HABITS = { name: 'varrup-habits', value: JSON.stringify({ state: { sketch: true }, version: 1 }) };

/** Habits of somebody who has the stage sketched: for a page that stands at an address of Varrup, or for all pages to come. */
async function sketched(context: BrowserContext, page: Page | null): Promise<void> {
  const put = ({ name, value }: typeof HABITS) => {
    if (localStorage.getItem(name) === null) localStorage.setItem(name, value);
  };
  if (page) await page.evaluate(put, HABITS);
  else {
    await context.addInitScript(put, HABITS);
    await context.addInitScript(undrawn);
  }
}

/**
 * Has nothing drawn by a graphics card that is not there while the stage is sketched: what is under the pointer, in the way of a
 * hand or beside a body is reckoned all the same.
 */
const undrawn = () => {
  if (!localStorage.getItem('varrup-habits')?.includes('"sketch":true')) return;
  const nothing = () => {};
  const { prototype } = WebGL2RenderingContext;
  Object.assign(prototype, {
    drawElements: nothing,
    drawArrays: nothing,
    drawElementsInstanced: nothing,
    drawArraysInstanced: nothing,
  });
};

/** Makes a page as if it had never been at Varrup: nothing remembered, nothing waiting, no theme, the pointer in its corner. */
async function forget(page: Page): Promise<void> {
  await page.emulateMedia({ colorScheme: null, reducedMotion: null });
  await page.mouse.move(0, 0);
  await page.goto('/api/health');
  await page.evaluate(async () => {
    localStorage.clear();
    sessionStorage.clear();
    for (const { name } of await indexedDB.databases())
      await new Promise((done) => {
        const asked = indexedDB.deleteDatabase(name!);
        asked.onsuccess = asked.onerror = asked.onblocked = done;
      });
  });
}
