import { migrate, SHOT_VERSION, type ShotDocument, ShotSchema, trusted } from '@varrup/core';

/**
 * A kept document as one of today. What this version has kept was read when it came in; an earlier one's is read now, so that nothing is
 * missing that has come since. Where it does not read it stays as it is, for whoever opens it to say so.
 */
export function broughtUp(kept: { readonly version?: unknown }): ShotDocument {
  const document = trusted(migrate(kept));
  return kept.version === SHOT_VERSION ? document : asRead(document);
}

/** A document with all that a reader would put in: what a Varrup has kept that did not read what it kept may lack it. */
export const asRead = (document: ShotDocument): ShotDocument => ShotSchema.safeParse(document).data ?? document;
