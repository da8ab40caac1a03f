import type { Bead } from '../overlays/arcs.ts';
import { onPane } from '../views/panes.ts';
import { BeadDrag } from './bead-drag.ts';
import type { Hands, Pointer, StageTool } from './tool.ts';

/** How near a hand has to be to a bead, in pixels; to a key's a little less. */
const NEAR = 8;
const KEY_NEARER = 2;

/** The beads of arcs: a key's goes where the hand goes, any other slides along the arc. */
export const beadTool = ({ overlays: { arcs }, preview }: Hands): StageTool => {
  /** The bead nearest to a pointer, if one is within reach; a key's before a plain one's. */
  const under = ({ at: [x, y], pane }: Pointer): Bead | null => {
    let best: Bead | null = null;
    let reach = NEAR;
    for (const bead of arcs.beads) {
      const [bx, by] = onPane(pane, bead.place);
      const distance = Math.hypot(bx - x, by - y) - (bead.role === 'between' ? 0 : KEY_NEARER);
      if (distance < reach) [best, reach] = [bead, distance];
    }
    return best;
  };
  return {
    grab({ shot, habits }, pointer) {
      const bead = under(pointer);
      // As the camera sees it an arc is not where the thing is: there it can be read, and not dragged.
      if (!bead || habits.arc.space !== 'world') return null;
      const drag = new BeadDrag(shot, bead, arcs.beads, pointer.pane, preview);
      return {
        move({ caster, at }) {
          drag.to(caster.ray, ...at);
          return undefined;
        },
        release: () => preview.keep(),
        cancel: () => preview.drop(),
      };
    },
    hover(_, pointer) {
      const bead = pointer && under(pointer);
      return bead ? { note: { text: beadWords(bead), at: onPane(pointer.pane, bead.place) } } : null;
    },
  };
};

/** What a bead says when the pointer rests on it: its frame, the spacing on both sides, and what dragging it does. */
function beadWords({ frame, role, before, after }: Bead): string {
  const way = (metres: number) => (metres < 0.1 ? `${(metres * 1000).toFixed(1)} mm` : `${metres.toFixed(3)} m`);
  const spacing = [
    before === null ? '' : `${way(before)} from the last`,
    after === null ? '' : `${way(after)} to the next`,
  ];
  const does = role === 'between' ? 'drag it along the arc' : `a ${role}: drag it anywhere`;
  return [`frame ${frame}`, ...spacing.filter((t) => t !== ''), does].join(' · ');
}
