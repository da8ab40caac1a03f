import { typedNumber } from '@varrup/core';

/** What a number field takes: from where to where, in the unit it shows, and whether only whole numbers. */
export interface NumberRange {
  readonly min: number;
  readonly max: number;
  readonly unit?: string;
  readonly whole?: boolean;
}

/** A number as fields write it, with a real minus and without one before zero. */
export const written = (value: number, digits: number): string => {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? (0).toFixed(digits) : text.replace('-', '−');
};

/** Large numbers with their thousands, small ones with the places they have. */
const said = (value: number) => value.toLocaleString('en', { maximumFractionDigits: 4 }).replace('-', '−');

/** A range in words: `whole numbers from 1 to 96`, `from −10,000 to 10,000 m`. */
export const rangeWords = ({ min, max, unit = '', whole = false }: NumberRange): string =>
  `${whole ? 'whole numbers ' : ''}from ${said(min)} to ${said(max)}${unit && ` ${unit}`}`;

/**
 * What somebody has typed, as a number in its range.
 * @param now the number that is there
 * @returns the number, or the sentence that refuses it
 */
export function readNumber(text: string, now: number, range: NumberRange): { value: number } | { refused: string } {
  const value = typedNumber(text, now);
  if (value === null) return { refused: `“${shortened(text)}” is no number: ${rangeWords(range)} it may be.` };
  const refused = outside(value, range);
  return refused === null ? { value } : { refused };
}

/** The sentence that refuses a number, or null where it lies in its range. */
export function outside(value: number, range: NumberRange): string | null {
  const unit = range.unit ? ` ${range.unit}` : '';
  if (range.whole && !Number.isInteger(value)) return `${said(value)} is not whole: ${rangeWords(range)} it may be.`;
  if (value < range.min) return `${said(value)}${unit} is too little: ${rangeWords(range)} it may be.`;
  return value > range.max ? `${said(value)}${unit} is too much: ${rangeWords(range)} it may be.` : null;
}

const shortened = (text: string) => (text.length > 20 ? `${text.slice(0, 20)}…` : text);
