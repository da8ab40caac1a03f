import { test as base } from '@playwright/test';

export { expect, type Locator, type Page } from '@playwright/test';

/**
 * Tests of the desk. The stage is sketched, with a sixteenth of its points and no small pictures, where the picture is not what is
 * tested: drawing it without a graphics card is what takes their time. A file whose tests look at pictures says
 * `test.use({ sketch: false })`.
 */
export const test = base.extend<{ sketch: boolean }>({
  sketch: [true, { option: true }],
  context: async ({ context, sketch }, use) => {
    await context.addInitScript((on) => {
      if (on && !localStorage.getItem('varrup-habits'))
        localStorage.setItem('varrup-habits', JSON.stringify({ state: { sketch: true }, version: 0 }));
    }, sketch);
    await use(context);
  },
});
