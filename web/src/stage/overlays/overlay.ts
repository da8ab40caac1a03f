import type * as THREE from 'three';
import type { Moment } from '../moment.ts';
import type { Pane } from '../views/panes.ts';

/**
 * Something the stage draws beside the picture itself: arcs, ghosts, handles… What other frames it needs it asks of
 * `live.sample`, so that nothing compiles the shot a second time. A new one is a file in this folder and a line in `index.ts`.
 */
export interface Overlay {
  /** What is drawn; where it is not visible nothing is. */
  readonly scene: THREE.Scene;
  /** Whether it stands among the bodies, hidden by those before it; else it is drawn over all of them. */
  readonly amongBodies?: boolean;
  /** Takes over what there is to draw, once for a drawing of all panes. */
  show?(moment: Moment): void;
  /** Makes ready what looks different in each pane, before it is drawn there. */
  draw?(moment: Moment, pane: Pane): void;
  /** The theme has changed. */
  recolour?(): void;
  dispose(): void;
}
