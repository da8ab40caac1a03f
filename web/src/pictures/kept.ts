/**
 * Pictures that are always the same, kept in this browser: of a rig in a version, of one of its poses. They are made once and not at every
 * opening. Where a browser keeps nothing they are made anew.
 */

/** Another name where rigs come to be drawn otherwise: what was kept under the old one goes. */
const SHELF = 'varrup-rig-pictures-1';

/** @param what all that the picture depends on */
export async function kept(what: unknown, make: () => Promise<Blob>): Promise<Blob> {
  const shelf = await shelfOf();
  const key = shelf && `/kept/${await fingerprint(JSON.stringify(what))}`;
  const there = key && (await shelf.match(key).catch(() => undefined));
  if (there) return there.blob();
  const made = await make();
  // Not kept for want of room is made again next time.
  if (key) await shelf.put(key, new Response(made)).catch(() => undefined);
  return made;
}

let shelf: Promise<Cache | null> | null = null;

/** Only a page that is served safely has a place to keep things. */
function shelfOf(): Promise<Cache | null> {
  shelf ??= (async () => {
    if (!('caches' in globalThis) || !crypto.subtle) return null;
    for (const name of await caches.keys())
      if (name.startsWith('varrup-rig-pictures-') && name !== SHELF) await caches.delete(name);
    return caches.open(SHELF);
  })().catch(() => null);
  return shelf;
}

async function fingerprint(text: string): Promise<string> {
  const bytes = new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text)));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');
}
