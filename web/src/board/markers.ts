import type { Marker, Shot } from '@varrup/core';

/** Markers in the order of their frames. */
export const markersOf = ({ markers }: Pick<Shot, 'markers'>): Marker[] =>
  markers.values().sort((a, b) => a.frame - b.frame || (a.id < b.id ? -1 : 1));
