/**
 * Listens for Escape before everybody else does. Where `handled` says that it meant something here, a drag let go of,
 * it means nothing elsewhere. Returns what ends the listening.
 */
export function onEscape(handled: () => boolean): () => void {
  const listen = (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || !handled()) return;
    event.stopImmediatePropagation();
    event.preventDefault();
  };
  addEventListener('keydown', listen, true);
  return () => removeEventListener('keydown', listen, true);
}
