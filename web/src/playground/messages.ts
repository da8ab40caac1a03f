/**
 * What the playground and whoever shows it say to one another. It gets files and questions, and answers with what its own player
 * shows: it knows nothing of where a file comes from.
 */
export type Asked =
  | { readonly playground: 'open'; readonly file: Blob; readonly name: string }
  | { readonly playground: 'show'; readonly motion: string; readonly seconds: number }
  | {
      readonly playground: 'places';
      readonly question: number;
      readonly motion: string;
      readonly seconds: readonly number[];
      readonly nodes: readonly string[];
    };

export type Said =
  /** It is there and can be asked. */
  | { readonly playground: 'ready' }
  | { readonly playground: 'opened'; readonly motions: readonly string[] }
  | { readonly playground: 'refused'; readonly why: string }
  /** Three numbers for each node, for each time: not a number where there is no such node. */
  | { readonly playground: 'places'; readonly question: number; readonly places: Float32Array };

/** Whether something that was said is meant here, and comes from this very site. */
export const isPlaygroundTalk = (event: MessageEvent): boolean =>
  event.origin === location.origin &&
  typeof event.data === 'object' &&
  event.data !== null &&
  'playground' in event.data;
