import { useEffect, useState } from 'react';
import type { Preview } from './previews.ts';
import { useShot } from './shot-store.ts';

/** A preview that belongs to a part of the interface, and is dropped when that goes. */
export function usePreview(owner: string): Preview {
  const [preview] = useState(() => useShot.getState().begin(owner));
  useEffect(() => () => preview.drop(), [preview]);
  return preview;
}
