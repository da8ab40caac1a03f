/** How the list of productions is laid out, in pixels: reckoned, so that what is out of sight need not be there. */

const GAP = 16;
const NARROWEST = 240;
/** A card's lines of text, with its border. */
const TEXT = 54;
export const HEADING = 44;
const BELOW = 24;

/** The cards of a list of some width. */
export interface CardLayout {
  readonly columns: number;
  /** How high a line of cards is, with the gap under it. */
  readonly line: number;
}

export function cardLayout(width: number): CardLayout {
  const columns = Math.max(1, Math.floor((width + GAP) / (NARROWEST + GAP)));
  const card = (width - (columns - 1) * GAP) / columns;
  return { columns, line: Math.ceil((card * 9) / 16) + TEXT + GAP };
}

/** How many lines of cards so many shots take, with the place where a new one is begun. */
export const linesOf = (shots: number, { columns }: CardLayout): number => Math.ceil((shots + 1) / columns);

/** How high a production with so many shots is. */
export const productionHeight = (shots: number, layout: CardLayout): number =>
  HEADING + linesOf(shots, layout) * layout.line + BELOW;
