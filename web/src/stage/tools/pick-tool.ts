import { isLocked } from '@varrup/core';
import * as THREE from 'three';
import { select } from '../../view/selection.ts';
import { type Moment, momentNow } from '../moment.ts';
import { type ShotPicture, worldBounds } from '../picture/picture.ts';
import { onPane } from '../views/panes.ts';
import type { Grab, Hands, Place, Pointer, StageTool } from './tool.ts';
import { pickingHow } from './tool.ts';

/** A hand that has gone further than this draws a box, in pixels. */
const BOX = 6;

/** Bodies: a press picks one, a box those whose middles are in it. Whatever else is under a pointer comes before. */
export const pickTool = (hands: Hands): StageTool => ({
  grab: (_, pointer) => boxFrom(hands, pointer),
});

function boxFrom(hands: Hands, start: Pointer): Grab {
  const { box } = hands;
  const how = pickingHow(start);
  let moved = false;
  const hide = () => {
    box.style.display = 'none';
  };
  return {
    move({ at: [x, y] }) {
      const [left, top] = [Math.min(x, start.at[0]), Math.min(y, start.at[1])];
      const [width, height] = [Math.abs(x - start.at[0]), Math.abs(y - start.at[1])];
      moved ||= width + height > BOX;
      if (moved) {
        const place = { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` };
        Object.assign(box.style, { display: 'block', ...place });
      }
      return undefined;
    },
    release(pointer) {
      hide();
      const moment = momentNow();
      if (!moment) return;
      const picked = moved ? inBox(hands, moment, start.at, pointer) : bodyUnder(hands.picture, moment, pointer);
      select(picked, how);
    },
    cancel: hide,
  };
}

/** The body under a pointer, as a list of one, or of none. */
export function bodyUnder(picture: ShotPicture, { shot }: Moment, { caster }: Pointer): string[] {
  for (const { object } of caster.intersectObjects(picture.bodies, true)) {
    const id = object.parent?.userData.member as string | undefined;
    if (id && !isLocked(shot, id)) return [id];
  }
  return [];
}

/** The controls in a box of the window; where there are none, the bodies. */
function inBox({ overlays }: Hands, { shot, frame }: Moment, a: Place, { at: b, pane }: Pointer): string[] {
  const [x0, y0, x1, y1] = [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[0], b[0]), Math.max(a[1], b[1])];
  const controls = overlays.controls.inBox(x0, y0, x1, y1, pane);
  if (controls.length > 0) return controls;
  return frame.layout.ids.filter((id, slot) => {
    if (shot.members.at(id).kind === 'control' || isLocked(shot, id) || !frame.isVisible(slot)) return false;
    const [x, y] = onPane(pane, worldBounds(shot, frame, [id]).getCenter(new THREE.Vector3()));
    return x >= x0 && x <= x1 && y >= y0 && y <= y1;
  });
}
