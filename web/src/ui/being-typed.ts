/**
 * The number that is being typed, wherever it stands. A key that is not for it asks it to finish first: what was typed is taken over, or
 * refused, and then the key is not anybody's.
 */
let finish: (() => boolean) | null = null;

/** A field is being typed into. @param take takes what is typed over; says whether it could */
export function typingBegins(take: () => boolean): void {
  finish = take;
}

export function typingEnds(take: () => boolean): void {
  if (finish === take) finish = null;
}

/** Takes over what is being typed, if anything is. @returns whether nothing stands in the way any more */
export const finishTyping = (): boolean => finish?.() ?? true;
