/** Is told of something wrong, as a sentence without its subject. */
export type Tell = (problem: string) => void;

/** An error in a few words: of the database's, its own. */
export const wordsOf = (error: unknown): string =>
  (error instanceof Error ? error.message : String(error)).split('\n')[0].slice(0, 200);
