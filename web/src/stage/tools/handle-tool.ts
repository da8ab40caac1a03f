import { changeChannels } from '@varrup/core';
import type * as THREE from 'three';
import { useView, type ViewState } from '../../view/view-store.ts';
import type { Moment } from '../moment.ts';
import type { Grip } from '../overlays/handles.ts';
import { Drag } from './dragging.ts';
import { handlePlace } from './handle-place.ts';
import { frameHeld, type Grab, type Hands, type Pointer, type StageTool } from './tool.ts';

/** The handles of what is picked: arrows, rings, plates. */
export const handleTool = (hands: Hands): StageTool => {
  const { handles } = hands.overlays;
  // What is drawn may be a moment old: without a tool and somebody picked there is none.
  const under = ({ shot, frame, view }: Moment, caster: THREE.Raycaster): Grip | null =>
    view.tool === 'pick' || !handlePlace(shot, frame, view) ? null : handles.hit(caster);
  return {
    grab(moment, pointer) {
      const grip = under(moment, pointer.caster);
      return grip && dragOf(hands, grip, moment, moment.view, pointer);
    },
    hover(moment, pointer) {
      const grip = pointer && under(moment, pointer.caster);
      if (handles.hover(grip)) hands.draw();
      return grip && {};
    },
  };
};

/** A handle in the hand. Playing goes on: what is changed is changed on the frame the hand took hold of it. */
export function dragOf({ preview }: Hands, grip: Grip, moment: Moment, view: ViewState, pointer: Pointer): Grab {
  const frame = frameHeld(moment);
  const drag = new Drag(grip, moment.shot, moment.frame, view, pointer.pane.camera, pointer.caster.ray.clone());
  return {
    move({ caster, shift }) {
      const { autoKey } = useView.getState();
      preview.show(changeChannels, { frame, values: drag.to(caster.ray, shift), autoKey });
      return undefined;
    },
    release: () => preview.keep(),
    cancel: () => preview.drop(),
  };
}
