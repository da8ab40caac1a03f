import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from 'vite';
import { rigs } from './cast.ts';
import { report, row } from './row.ts';

/**
 * A redraw of the sheet and of the curves with 10,000 keys, in the browser, on a canvas of the size they have at
 * 1280 × 800: the application's own drawing, panned a little each time so that nothing is drawn from memory. And what arcs and
 * onion skin cost at each change, up to what is handed to the graphics card.
 */
const root = join(import.meta.dirname, '..');
const built = await build({
  root,
  logLevel: 'silent',
  configFile: false,
  define: { 'process.env.NODE_ENV': '"production"' },
  build: { write: false, lib: { entry: join(root, 'bench/redraw-page.ts'), formats: ['iife'], name: 'bench' } },
});
const [{ output }] = built as { output: { code?: string }[] }[];
const code = output.map((chunk) => chunk.code ?? '').join('\n');

const browser = await chromium.launch({ executablePath: process.env.VARRUP_CHROMIUM, args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (error) => process.stderr.write(`${error.message}\n`));
await page.setContent('<body style="margin:0"><canvas style="width:1056px;height:220px"></canvas></body>');
await page.addScriptTag({ content: code });
const measured = await page.evaluate(
  (shot) =>
    (globalThis as unknown as { measureRedraws(shot: unknown): { sheet: number; curves: number } }).measureRedraws(
      shot,
    ),
  rigs(1, 60, 28, 6),
);
const around = await page.evaluate(
  (shot) => (globalThis as unknown as { measureAround(shot: unknown): number }).measureAround(shot),
  rigs(1, 60, 28, 6, 'cylinder'),
);
await browser.close();

report([
  row('sheet redraw, 10,000 keys', measured.sheet, 'ms', 8),
  row('curves redraw, 10,000 keys', measured.curves, 'ms', 8),
  row('arcs and onion skin, 12 frames around now, 60 joints', around, 'ms', 8),
]);
