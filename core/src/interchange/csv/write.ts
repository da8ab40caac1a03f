import { type CurveTable, longHeader, type TableForm, wideHeader } from './table.ts';

/** Digits after the point: a thousandth of a millimetre, and finer than any angle that shows. */
const DIGITS = 6;

/** Writes curves as CSV (RFC 4180), which {@link readCurveTable} reads. Seconds count from the first frame. */
export function writeCurveTable({ rate, frames, columns }: CurveTable, form: TableForm): string {
  const seconds = (frame: number) => number((frame - frames[0]) / rate);
  const lines =
    form === 'wide'
      ? [
          [...wideHeader, ...columns.map((c) => heading(c.member, c.channel, c.unit))],
          ...frames.map((frame, f) => [number(frame), seconds(frame), ...columns.map((c) => cell(c.values[f]))]),
        ]
      : [
          [...longHeader],
          ...columns.flatMap(({ member, channel, unit, values }) =>
            frames.flatMap((frame, f) =>
              values[f] === null ? [] : [[member, channel, unit, number(frame), seconds(frame), cell(values[f])]],
            ),
          ),
        ];
  return `${lines.map((line) => line.map(quoted).join(',')).join('\r\n')}\r\n`;
}

/** What stands over a column: whose channel it is, and in what it is told. */
export const heading = (member: string, channel: string, unit: string): string =>
  `${member}: ${channel}${unit ? ` (${unit})` : ''}`;

const cell = (value: number | null): string => (value === null ? '' : number(value));

const number = (value: number): string => {
  const text = value.toFixed(DIGITS).replace(/\.?0+$/, '');
  return text === '-0' ? '0' : text;
};

const quoted = (text: string): string => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
