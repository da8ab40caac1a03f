import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from 'vite';
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
interface Bench {
  measureRedraws(): { sheet: number; curves: number };
  measurePlayed(): { large: number; small: number };
  measureAround(): number;
}
const measured = await page.evaluate(() => (globalThis as unknown as Bench).measureRedraws());
const played = await page.evaluate(() => (globalThis as unknown as Bench).measurePlayed());
const around = await page.evaluate(() => (globalThis as unknown as Bench).measureAround());
await browser.close();

report([
  row('sheet redraw, 10,000 keys', measured.sheet, 'ms', 8),
  row('curves redraw, 10,000 keys', measured.curves, 'ms', 8),
  row('one frame played with the sheet open, besides the stage, 200,000 keys', played.large, 'ms', 2),
  row('  against 10,000 keys', played.large / played.small, 'ratio', 1.5),
  row('arcs and onion skin, 12 frames around now, 60 joints', around, 'ms', 8),
]);
