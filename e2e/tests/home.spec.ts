import { openHome } from '../desk.ts';
import { expect, test } from '../test.ts';

test.use({ sketch: false });

test('the harbour is there from the start, with a picture made from the shot', { tag: '@lists' }, async ({ page }) => {
  await openHome(page);
  const ferry = page.getByRole('region', { name: 'Night Ferry', exact: true });
  await expect(ferry.getByRole('heading', { name: '01 Float on the steps' })).toBeVisible();
  // Pictures are made of what is in sight.
  await ferry.scrollIntoViewIfNeeded();
  const picture = ferry.locator('img').first();
  await expect(picture).toBeVisible();
  // Not a blank: a picture of the steps has many colours.
  const colours = await picture.evaluate(async (image: HTMLImageElement) => {
    await image.decode();
    const canvas = Object.assign(document.createElement('canvas'), { width: 60, height: 34 });
    const context = canvas.getContext('2d')!;
    context.drawImage(image, 0, 0, 60, 34);
    const { data } = context.getImageData(0, 0, 60, 34);
    return new Set(
      Array.from({ length: data.length / 4 }, (_, i) => `${data[i * 4]} ${data[i * 4 + 1]} ${data[i * 4 + 2]}`),
    ).size;
  });
  expect(colours).toBeGreaterThan(100);
});

test('productions and shots are made, renamed, duplicated, binned and brought back', { tag: '@lists' }, async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'new production' }).click();
  await page.getByLabel('What is it called?').fill('Rope works');
  await page.getByRole('button', { name: 'Make it' }).click();
  const search = page.getByLabel('Search productions and shots');
  await search.fill('Rope works');
  const rope = page.getByRole('region', { name: 'Rope works', exact: true });
  await expect(rope).toBeVisible();
  await rope.getByRole('button', { name: 'new shot' }).click();
  await page.getByLabel('What is it called?').fill('Coil');
  await page.getByLabel('What is it called?').press('Enter');
  await expect(page.getByRole('region', { name: 'Cast' })).toContainText('Nobody here yet');
  await page.getByRole('link', { name: 'Varrup: all productions' }).click();
  await search.fill('Rope works');

  await rope.getByRole('button', { name: 'More about Coil' }).click();
  await page.getByRole('menuitem', { name: 'rename…' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('Coil, wet');
  await page.getByRole('button', { name: 'Rename' }).click();
  await expect(rope.getByRole('heading', { name: 'Coil, wet', exact: true })).toBeVisible();
  await rope.getByRole('button', { name: 'More about Coil, wet' }).click();
  await page.getByRole('menuitem', { name: 'duplicate' }).click();
  await expect(rope.getByRole('heading', { name: 'Coil, wet copy' })).toBeVisible();

  await rope.getByRole('button', { name: 'More about Coil, wet copy' }).click();
  await page.getByRole('menuitem', { name: 'to the bin' }).click();
  await expect(rope.getByRole('heading', { name: 'Coil, wet copy' })).toBeHidden();
  await page.getByText(/bin: /).click();
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Coil, wet copy' })
    .getByRole('button', { name: 'bring back' })
    .click();
  await expect(rope.getByRole('heading', { name: 'Coil, wet copy' })).toBeVisible();
});

test('a shot that does not exist says so and leads back', async ({ page }) => {
  await page.goto('/shots/nobody');
  await expect(page.getByText('There is no such shot.')).toBeVisible();
  await page.getByRole('link', { name: 'To the productions' }).click();
  await page.getByLabel('Search productions and shots').fill('Night Ferry');
  await expect(page.getByRole('heading', { name: 'Night Ferry', exact: true })).toBeVisible();
});

test('is searched by words in names of shots and productions, and ordered by what was worked on last', async ({
  page,
}) => {
  const made = async (path: string, name: string) =>
    (await (await page.request.post(`/api${path}`, { data: { name }, headers: { 'x-varrup': 'test' } })).json())
      .id as string;
  const wharf = await made('/productions', 'Wharf 100%');
  await made(`/productions/${wharf}/shots`, '07 Windlass turns');
  await made(`/productions/${wharf}/shots`, '08 Chain runs');
  await page.goto('/');
  // What was worked on last comes first.
  await expect(page.getByLabel('order')).toHaveValue('recent');
  const { productions } = await (await page.request.get('/api/productions?order=recent')).json();
  const places = ['Wharf 100%', 'Night Ferry'].map((name) =>
    productions.findIndex((p: { name: string }) => p.name === name),
  );
  expect(places[0]).toBeLessThan(places[1]);
  const search = page.getByLabel('Search productions and shots');
  await search.fill('windLASS');
  const found = page.getByRole('region', { name: 'Wharf 100%', exact: true });
  await expect(found.getByRole('heading', { name: '07 Windlass turns' })).toBeVisible();
  await expect(page.getByRole('heading', { name: '08 Chain runs' })).toBeHidden();
  await expect(page.getByRole('region', { name: 'Night Ferry', exact: true })).toBeHidden();
  await search.fill('100%');
  await expect(found.getByRole('article')).toHaveCount(2);
  await search.fill('no such thing');
  await expect(page.getByRole('status').filter({ hasText: 'No production and no shot' })).toBeVisible();
  await search.fill('');
  // The next number of a production is its own.
  await found.getByRole('button', { name: 'new shot' }).click();
  await expect(page.getByLabel('What is it called?')).toHaveValue('09 Untitled');
});

test('of a disk that is full is told, on the list and on the desk', async ({ page }) => {
  await page.route('**/api/health', (route) => route.fulfill({ json: { status: 'ok', room: 'full', free: 12e6 } }));
  await page.goto('/');
  await expect(page.getByRole('status').filter({ hasText: 'disk full: 12 MB free' })).toBeVisible();
  // The page goes on to other tests.
  await page.unroute('**/api/health');
});

test('a page has no text run as script, and tries none', async ({ page }) => {
  const blocked: string[] = [];
  await page.exposeFunction('blocked', (what: string) => void blocked.push(what));
  await page.addInitScript(() =>
    document.addEventListener('securitypolicyviolation', (event) =>
      (window as unknown as { blocked(what: string): void }).blocked(event.violatedDirective),
    ),
  );
  await openHome(page);
  await page.getByRole('link', { name: 'Open 01 Float on the steps' }).first().click();
  await expect(page.locator('canvas[data-testid=stage][data-drawn]')).toBeVisible({ timeout: 60_000 });
  expect(blocked).toEqual([]);
});
