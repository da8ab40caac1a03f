import type { NavigateFunction } from 'react-router';

/** Going from desk to desk from outside of the page's own parts: commands do. */
let navigate: NavigateFunction | null = null;

/** The page tells how it is gone about. @returns what ends that */
export function followGoing(go: NavigateFunction): () => void {
  navigate = go;
  return () => {
    navigate = null;
  };
}

/** Goes to a desk of the shot that is open. */
export function goToDesk(id: string): void {
  const [, shots, shot] = location.pathname.split('/');
  if (shots === 'shots' && shot) void navigate?.(`/shots/${shot}/${id}`);
}
