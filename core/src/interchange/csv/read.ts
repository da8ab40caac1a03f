import { Refused } from '../../schema/refused.ts';
import { type CurveColumn, type CurveTable, longHeader, tableLimits, wideHeader } from './table.ts';

/**
 * Reads curves from CSV, wide or long, as {@link writeCurveTable} writes them: what stands in the first line tells which. Other columns,
 * lines without numbers and a byte-order mark are let pass.
 * @throws Refused with the line, where a number is none
 */
export function readCurveTable(text: string): CurveTable {
  if (text.length > tableLimits.characters) throw new Refused('The table is larger than 50 MB.');
  const lines = cells(text.replace(/^\uFEFF/, ''));
  const [header = []] = lines;
  if (header.length > tableLimits.columns) throw new Refused(`The table has more than ${tableLimits.columns} columns.`);
  const at = (name: string) => header.findIndex((n) => n.trim().toLowerCase() === name);
  if (longHeader.every((name) => name === 'unit' || name === 'seconds' || at(name) >= 0)) return readLong(lines, at);
  if (at('frame') >= 0) return readWide(lines, header, at);
  throw new Refused(
    'Line 1: it is no table of curves; one begins with frame and a column for each channel, or with member, channel, frame and value.',
  );
}

function readLong(lines: readonly (readonly string[])[], at: (name: string) => number): CurveTable {
  const [member, channel, unit, frame, seconds, value] = longHeader.map(at);
  const columns = new Map<string, { of: Omit<CurveColumn, 'values'>; values: Map<number, number> }>();
  const times = new Map<number, number>();
  lines.forEach((line, l) => {
    if (l === 0 || line.every((cell) => cell.trim() === '')) return;
    const time = numberAt(line, frame, l, 'the frame');
    const key = `${line[member]} ${line[channel]}`;
    const column = columns.get(key) ?? {
      of: { member: line[member] ?? '', channel: line[channel] ?? '', unit: unitOf(line[unit] ?? '') },
      values: new Map(),
    };
    columns.set(key, column);
    if (columns.size > tableLimits.columns)
      throw new Refused(`Line ${l + 1}: there are more than ${tableLimits.columns} channels.`);
    column.values.set(time, numberAt(line, value, l, 'the value'));
    times.set(time, seconds >= 0 ? Number(line[seconds]) : Number.NaN);
  });
  const frames = [...times.keys()].sort((a, b) => a - b);
  return {
    rate: rateOf(
      frames,
      frames.map((f) => times.get(f)!),
    ),
    frames,
    columns: [...columns.values()].map(({ of, values }) => ({
      ...of,
      values: frames.map((f) => values.get(f) ?? null),
    })),
  };
}

function readWide(
  lines: readonly (readonly string[])[],
  names: readonly string[],
  at: (name: string) => number,
): CurveTable {
  const [frameAt, secondsAt] = wideHeader.map(at);
  const wanted = names.flatMap((name, c) => {
    const found = c === frameAt || c === secondsAt ? null : /^(.*?): (.*?)(?: \((m|°)\))?$/.exec(name);
    return found ? [{ c, of: { member: found[1], channel: found[2], unit: unitOf(found[3] ?? '') } }] : [];
  });
  const rows = new Map<number, { seconds: number; values: (number | null)[] }>();
  lines.forEach((line, l) => {
    if (l === 0 || line.every((cell) => cell.trim() === '')) return;
    const values = wanted.map(({ c }) => ((line[c] ?? '').trim() === '' ? null : numberAt(line, c, l, names[c])));
    const seconds = secondsAt >= 0 ? Number(line[secondsAt]) : Number.NaN;
    rows.set(numberAt(line, frameAt, l, 'the frame'), { seconds, values });
  });
  const frames = [...rows.keys()].sort((a, b) => a - b);
  return {
    rate: rateOf(
      frames,
      frames.map((f) => rows.get(f)!.seconds),
    ),
    frames,
    columns: wanted.map(({ of }, i) => ({ ...of, values: frames.map((f) => rows.get(f)!.values[i]) })),
  };
}

const unitOf = (text: string): CurveColumn['unit'] => (text === 'm' || text === '°' ? text : '');

function numberAt(line: readonly string[], column: number, l: number, what: string): number {
  const text = (line[column] ?? '').trim();
  const number = Number(text);
  if (text === '' || !Number.isFinite(number))
    throw new Refused(`Line ${l + 1}: ${what} is “${text.slice(0, 40)}”, which is no number.`);
  return number;
}

/** Frames a second, by the first and the last line; 24 where the table does not say. */
function rateOf(frames: readonly number[], seconds: readonly number[]): number {
  const last = frames.length - 1;
  const rate = last > 0 ? (frames[last] - frames[0]) / (seconds[last] - seconds[0]) : Number.NaN;
  if (!Number.isFinite(rate) || rate <= 0) return 24;
  const whole = Math.round(rate);
  return whole > 0 && Math.abs(rate - whole) < whole * 2e-4 ? whole : rate;
}

/** The cells of each line (RFC 4180; lines may end in any way, and cells be parted by semicolons where the first line is). */
function cells(text: string): string[][] {
  const first = text.slice(0, text.search(/[\r\n]/) >>> 0);
  const parting = !first.includes(',') && first.includes(';') ? ';' : ',';
  const lines: string[][] = [[]];
  let cell = '';
  let quoted = false;
  for (let i = 0; i < text.length; i++) {
    const c = text[i];
    if (quoted) {
      if (c !== '"') cell += c;
      else if (text[i + 1] === '"') {
        cell += c;
        i++;
      } else quoted = false;
    } else if (c === '"' && cell === '') quoted = true;
    else if (c === parting || c === '\n' || c === '\r') {
      lines[lines.length - 1].push(cell);
      cell = '';
      if (c === parting) continue;
      if (c === '\r' && text[i + 1] === '\n') i++;
      if (lines.length > tableLimits.lines) throw new Refused(`The table has more than ${tableLimits.lines} lines.`);
      lines.push([]);
    } else cell += c;
  }
  if (quoted) throw new Refused('A cell that begins with a quotation mark does not end.');
  if (cell !== '' || lines[lines.length - 1].length > 0) lines[lines.length - 1].push(cell);
  return lines;
}
