import { clipAtWork, type Finding, type KeySelection, keyIndexAt, runSpan, type Shot } from '@varrup/core';
import { colour } from '../ui/theme.ts';
import { drawGround, drawNow, drawRuler, prepare } from './draw-time.ts';
import { RULER } from './ruler.ts';
import { profileOf, type RowKey, rowKeys, type SheetRow, thickness } from './sheet-rows.ts';
import { type Span, timeScale } from './time-axis.ts';

export const ROW = 24;
const PEG = { width: 6, height: 15 };
/** How far a peg leans that is not driven in, in radians. */
const LEAN = 0.5;

/** Everything the sheet draws from. */
export interface SheetPicture {
  readonly shot: Shot;
  readonly rows: readonly SheetRow[];
  readonly keys: KeySelection;
  readonly selection: readonly string[];
  readonly span: Span;
  readonly scroll: number;
  /** What the checks have found, by member. */
  readonly findings: ReadonlyMap<string, readonly Finding[]>;
  /** A box being drawn to pick keys, in pixels. */
  readonly box: readonly [number, number, number, number] | null;
}

/** Draws the visible rows: ribbons between pegs, thick where the thing moves fast, a line where it holds. */
export function drawSheet(canvas: HTMLCanvasElement, picture: SheetPicture): void {
  const { context, width, height } = prepare(canvas);
  const { shot, rows, span, scroll } = picture;
  drawGround(context, shot, span, width, height);
  for (let i = firstRow(scroll); i <= lastRow(picture, height); i++)
    drawRow(context, picture, rows[i], RULER + i * ROW - scroll, width);
  drawRuler(context, shot, span, width);
  drawBracket(context, bracketOf(picture.keys, span, width));
  if (picture.box) {
    const [x0, y0, x1, y1] = picture.box;
    context.strokeStyle = colour('blue');
    context.fillStyle = colour('blue-wash');
    context.globalAlpha = 0.5;
    context.fillRect(x0, y0, x1 - x0, y1 - y0);
    context.globalAlpha = 1;
    context.strokeRect(x0 + 0.5, y0 + 0.5, x1 - x0, y1 - y0);
  }
}

/** What of the sheet changes with time: the keys that are on the frame of now, and its line. On a canvas of its own, over the other. */
export function drawSheetNow(canvas: HTMLCanvasElement, picture: SheetPicture, frame: number): void {
  const { context, width, height } = prepare(canvas);
  const { shot, rows, span, scroll } = picture;
  const at = timeScale(span, width)(frame);
  if (Number.isInteger(frame) && at > -PEG.width && at < width + PEG.width) {
    context.save();
    context.beginPath();
    context.rect(0, RULER, width, height - RULER);
    context.clip();
    for (let i = firstRow(scroll); i <= lastRow(picture, height); i++) {
      const keys = rowKeys(shot, rows[i]);
      const here = keyIndexAt(keys, frame);
      const key = keys[here];
      if (key && !isPicked(picture.keys, key))
        drawPeg(context, key, at, RULER + i * ROW - scroll + ROW / 2, { fill: 'ink', grow: 1 });
    }
    context.restore();
  }
  drawNow(context, frame, span, width, height);
}

const firstRow = (scroll: number) => Math.max(0, Math.floor(scroll / ROW));
const lastRow = ({ rows, scroll }: SheetPicture, height: number) =>
  Math.min(rows.length - 1, Math.ceil((scroll + height - RULER) / ROW));

const isPicked = (keys: KeySelection, key: RowKey) =>
  key.paths.some((p) => keys[p]?.some((f) => Math.abs(f - key.frame) < 1e-6));

/** Where the bracket over the picked keys begins and ends; null where they are all on one frame. */
export function bracketOf(keys: KeySelection, span: Span, width: number): { from: number; to: number } | null {
  const run = runSpan(keys);
  if (!run || run.last - run.first < 1e-6) return null;
  const x = timeScale(span, width);
  return { from: x(run.first), to: x(run.last) };
}

/** The bracket over the picked keys: dragged at an end it scales their time, in the middle it moves them. */
function drawBracket(context: CanvasRenderingContext2D, bracket: { from: number; to: number } | null): void {
  if (!bracket) return;
  context.fillStyle = colour('blue');
  context.fillRect(bracket.from, RULER - 4, bracket.to - bracket.from, 2);
  for (const at of [bracket.from, bracket.to]) {
    context.beginPath();
    context.roundRect(at - 3, RULER - 8, 6, 9, 2);
    context.fill();
  }
}

function drawRow(
  context: CanvasRenderingContext2D,
  picture: SheetPicture,
  row: SheetRow,
  top: number,
  width: number,
): void {
  const { shot, selection } = picture;
  const picked = selection.includes(row.member);
  const middle = top + ROW / 2;
  if (picked) {
    context.fillStyle = colour('blue-wash');
    context.globalAlpha = row.path ? 0.4 : 0.8;
    context.fillRect(0, top, width, ROW);
    context.globalAlpha = 1;
  }
  context.strokeStyle = colour('rule');
  context.globalAlpha = 0.6;
  context.beginPath();
  context.moveTo(0, Math.round(top + ROW) - 0.5);
  context.lineTo(width, Math.round(top + ROW) - 0.5);
  context.stroke();
  context.globalAlpha = 1;
  drawRepeats(context, picture, row, top, width);
  const keys = rowKeys(shot, row);
  if (keys.length > 0) drawKeys(context, picture, row, keys, middle, width);
  drawLoose(context, picture, row, middle, width);
  drawFindings(context, picture, row, top, width);
}

/** What is loose: a peg that leans, since it is not driven in yet. */
function drawLoose(
  context: CanvasRenderingContext2D,
  { shot, span }: SheetPicture,
  row: SheetRow,
  middle: number,
  width: number,
): void {
  if (shot.loose.size === 0) return;
  const x = timeScale(span, width);
  const frames = new Set(row.paths.flatMap((path) => shot.loose.get(path)?.map((change) => change.frame) ?? []));
  for (const frame of frames) {
    const at = x(frame);
    if (at <= -PEG.height || at >= width + PEG.height) continue;
    context.save();
    context.translate(at, middle);
    context.rotate(LEAN);
    context.beginPath();
    context.roundRect(-PEG.width / 2, -PEG.height / 2, PEG.width, PEG.height, PEG.width / 2);
    context.fillStyle = colour('card');
    context.fill();
    context.strokeStyle = colour('ink');
    context.lineWidth = 1.6;
    context.stroke();
    context.restore();
  }
}

/** Beyond the seam of a cycle: that it goes on, how often, and how far it gets. */
function drawRepeats(
  context: CanvasRenderingContext2D,
  { shot, span }: SheetPicture,
  row: SheetRow,
  top: number,
  width: number,
): void {
  const clip = row.path === null ? clipAtWork(shot, row.member) : null;
  if (!clip?.cycles) return;
  const x = timeScale(span, width);
  const end = clip.first + clip.length;
  const [from, to] = [x(end), x(Math.max(end, shot.range.last))];
  context.fillStyle = colour('graphite');
  context.globalAlpha = 0.09;
  context.fillRect(from + 5, top + 4, Math.max(0, to - from - 5), ROW - 8);
  context.globalAlpha = 1;
  const times = Math.max(0, (shot.range.last - clip.first) / clip.length);
  const far = clip.travelling ? `, travelling ${clip.travel.toFixed(2)} m each` : ', in place';
  const text = `${clip.name} repeats ×${Number(times.toFixed(1))}${far}`;
  context.font = '11px "Hanken Grotesk Variable", sans-serif';
  context.textBaseline = 'middle';
  context.textAlign = 'left';
  if (context.measureText(text).width < to - from - 16) context.fillText(text, Math.max(from + 12, 12), top + ROW / 2);
}

function drawKeys(
  context: CanvasRenderingContext2D,
  picture: SheetPicture,
  row: SheetRow,
  keys: readonly RowKey[],
  middle: number,
  width: number,
): void {
  const { span, selection } = picture;
  const picked = selection.includes(row.member);
  drawRibbon(context, picture, row, keys, middle, width, picked);
  const x = timeScale(span, width);
  for (const key of keys) {
    const at = x(key.frame);
    if (at <= -PEG.width || at >= width + PEG.width) continue;
    if (isPicked(picture.keys, key)) drawPeg(context, key, at, middle, { fill: 'blue', grow: 1 });
    else drawPeg(context, key, at, middle, { fill: picked ? 'ink' : 'graphite', grow: 0 });
  }
}

/** A small roof under each place where the checks found something, and a line as long as it lasts. */
function drawFindings(
  context: CanvasRenderingContext2D,
  { findings, span }: SheetPicture,
  row: SheetRow,
  top: number,
  width: number,
): void {
  const own = findings.get(row.member);
  if (!own) return;
  const x = timeScale(span, width);
  const foot = top + ROW - 1;
  context.fillStyle = colour('vermilion');
  for (const f of own) {
    if (f.frame === null || (row.path !== null && f.path !== row.path)) continue;
    const at = x(f.frame);
    if (f.until !== null) context.fillRect(at, foot - 1.5, Math.max(0, x(f.until) - at), 1.5);
    context.beginPath();
    context.moveTo(at - 4.5, foot);
    context.lineTo(at, foot - 6);
    context.lineTo(at + 4.5, foot);
    context.fill();
  }
}

function drawRibbon(
  context: CanvasRenderingContext2D,
  { shot, span }: SheetPicture,
  row: SheetRow,
  keys: readonly RowKey[],
  middle: number,
  width: number,
  picked: boolean,
): void {
  const x = timeScale(span, width);
  const profiles = row.paths.flatMap((p) => profileOf(shot, p) ?? []).filter((p) => p.most > 1e-9);
  const from = keys[0].frame;
  const to = keys[keys.length - 1].frame;
  context.fillStyle = colour(picked ? 'blue' : 'umber');
  context.globalAlpha = picked ? 0.34 : 0.3;
  context.fillRect(x(from), middle - 0.75, x(to) - x(from), 1.5);
  if (profiles.length > 0) {
    const first = Math.max(Math.floor(from), Math.floor(span.first), shot.range.first);
    const last = Math.min(Math.ceil(to), Math.ceil(span.last), shot.range.last);
    // Where many frames share a pixel the ribbon is drawn from every so many of them.
    const stride = Math.max(1, Math.floor((span.last - span.first) / width));
    const half = (f: number) => {
      let share = 0;
      for (const p of profiles) share = Math.max(share, (p.speeds[f - p.first] ?? 0) / p.most);
      return thickness(share);
    };
    context.beginPath();
    context.moveTo(x(first), middle);
    for (let f = first; f < last; f += stride) context.lineTo(x(f + stride / 2), middle - half(f));
    context.lineTo(x(last), middle);
    for (let f = last - 1; f >= first; f -= stride) context.lineTo(x(f + stride / 2), middle + half(f));
    context.closePath();
    context.fill();
  }
  context.globalAlpha = 1;
}

function drawPeg(
  context: CanvasRenderingContext2D,
  key: RowKey,
  x: number,
  middle: number,
  { fill, grow }: { fill: 'blue' | 'ink' | 'graphite'; grow: 0 | 1 },
): void {
  context.beginPath();
  // What a recipe has written and nobody has touched stands half as high.
  const height = key.untouched ? PEG.height / 2 : PEG.height;
  context.roundRect(
    x - PEG.width / 2 - grow / 2,
    middle - height / 2 - grow,
    PEG.width + grow,
    height + grow * 2,
    (PEG.width + grow) / 2,
  );
  context.fillStyle = colour(key.breakdown ? 'card' : fill);
  context.fill();
  context.strokeStyle = colour(key.breakdown ? fill : 'card');
  context.lineWidth = key.breakdown ? 1.6 : 1;
  context.stroke();
  context.lineWidth = 1;
}
