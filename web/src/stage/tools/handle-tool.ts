import { type ChannelValue, changeChannels } from '@varrup/core';
import type * as THREE from 'three';
import { performing, usePerform } from '../../perform/performing.ts';
import type { Preview } from '../../shot/previews.ts';
import { useAutoKey } from '../../view/auto-key.ts';
import type { Moment } from '../moment.ts';
import type { Grip } from '../overlays/handles.ts';
import { Drag } from './dragging.ts';
import { handlePlace } from './handle-place.ts';
import { pivotGrab } from './pivot-drag.ts';
import { snappingOf } from './snapping.ts';
import { frameHeld, type Grab, type Hands, type Pointer, type StageTool } from './tool.ts';

/** The handles of what is picked: arrows, rings, plates. */
export const handleTool = (hands: Hands): StageTool => {
  const { handles } = hands.overlays;
  // What is drawn may be a moment old: without a tool and somebody picked there is none.
  const under = (moment: Moment, caster: THREE.Raycaster): Grip | null =>
    moment.tool.tool === 'pick' || !handlePlace(moment) ? null : handles.hit(caster);
  return {
    grab(moment, pointer) {
      const grip = under(moment, pointer.caster);
      return grip && dragOf(hands, grip, moment, pointer);
    },
    hover(moment, pointer) {
      const grip = pointer && under(moment, pointer.caster);
      if (handles.hover(grip)) hands.draw();
      return grip && {};
    },
  };
};

/** A handle in the hand. Playing goes on: what is changed is changed on the frame the hand took hold of it. */
export function dragOf({ preview }: Hands, grip: Grip, moment: Moment, pointer: Pointer): Grab {
  const frame = frameHeld(moment);
  const { camera } = pointer.pane;
  if (moment.tool.pivot && grip.tool === 'move') return pivotGrab(preview, grip, moment, pointer, frame);
  const at = handlePlace(moment)?.position;
  const snapping = at ? snappingOf(moment.tool.snap, moment, camera, at) : null;
  const drag = new Drag(grip, moment, camera, pointer.caster.ray.clone(), snapping);
  return changing(preview, frame, ({ caster, shift, ctrl }) => drag.to(caster.ray, shift, ctrl));
}

/**
 * A hand that changes channels: on the frame it took hold of them, or, while one performs, on every frame that goes by.
 * @param valuesAt what the channels are with the hand there
 */
export function changing(
  preview: Preview,
  frame: number,
  valuesAt: (pointer: Pointer) => Record<string, ChannelValue>,
): Grab {
  if (usePerform.getState().armed) return performing(preview, valuesAt);
  return {
    move(pointer) {
      const { mode: autoKey } = useAutoKey.getState();
      preview.show(changeChannels, { frame, values: valuesAt(pointer), autoKey });
      return undefined;
    },
    release: () => preview.keep(),
    cancel: () => preview.drop(),
  };
}
