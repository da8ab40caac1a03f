import { holdAt, isLocked, type Shot } from '@varrup/core';
import { live } from '../../view/live.ts';
import { select, useSelection } from '../../view/selection.ts';
import { type Moment, momentNow } from '../moment.ts';
import { DialDrag } from './dial-drag.ts';
import { changing, dragOf } from './handle-tool.ts';
import { toolFor } from './reach.ts';
import { frameHeld, type Grab, type Hands, type Pointer, pickingHow, type StageTool } from './tool.ts';

/** A hand that has gone as far means to drag, in pixels. */
const PULLED = 4;

/** The controls of rigs: pressed they are picked, pulled they go along. */
export const controlTool = (hands: Hands): StageTool => {
  const { controls } = hands.overlays;
  return {
    grab(_, pointer) {
      const id = controls.under(...pointer.at, pointer.pane);
      return id === null ? null : new PressedControl(hands, id, pointer);
    },
    hover({ shot }, pointer) {
      const id = pointer && controls.under(...pointer.at, pointer.pane);
      if (controls.hovered !== id) {
        controls.hovered = id;
        hands.draw();
      }
      if (!id || !pointer) return null;
      const at = controls.placeOf(id, pointer.pane);
      return at ? { note: { text: controlWords(shot, id), at } } : {};
    },
  };
};

/** A control one has pressed and not moved yet. */
class PressedControl implements Grab {
  readonly #hands: Hands;
  readonly #id: string;
  readonly #from: Pointer['at'];
  readonly #how: 'only' | 'add' | 'toggle';
  readonly #was: boolean;

  constructor(hands: Hands, id: string, pointer: Pointer) {
    this.#hands = hands;
    this.#id = id;
    this.#from = pointer.at;
    this.#how = pickingHow(pointer);
    this.#was = useSelection.getState().picked.includes(id);
    // Picked at once, so that one sees what a drag will move; among several picked ones it becomes the leading one.
    if (!this.#was) select([id], this.#how);
  }

  /** Taken along once the hand has really moved: in the plane one sees, or by what it has instead of a move. */
  move(pointer: Pointer): Grab | undefined {
    const [x, y] = pointer.at;
    if (Math.hypot(x - this.#from[0], y - this.#from[1]) < PULLED) return undefined;
    const moment = momentNow();
    const member = moment?.shot.members.get(this.#id);
    if (!moment || !member || isLocked(moment.shot, this.#id)) return undefined;
    const { shot } = moment;
    if (!moment.picked.includes(this.#id)) return undefined;
    const tool = toolFor(shot.rigs.controlOf(member), 'move');
    if (tool === 'pick') return dialsOf(this.#hands, moment, this.#id, this.#from);
    // The control that was taken hold of leads.
    const picked = [...moment.picked.filter((id) => id !== this.#id), this.#id];
    useSelection.setState({ picked });
    const hand: Moment = { ...moment, picked, tool: { ...moment.tool, tool, about: 'own' } };
    return dragOf(this.#hands, { tool, axis: 'all' }, hand, pointer);
  }

  release(): void {
    if (this.#was) select([this.#id], this.#how);
  }
}

/** The dials of a control that has nothing else; one without any is only held. */
function dialsOf({ preview }: Hands, moment: Moment, id: string, from: Pointer['at']): Grab {
  const { shot, frame } = moment;
  const drag = DialDrag.of(shot, shot.members.at(id), frame, from);
  if (!drag) return { move: () => undefined };
  return changing(preview, frameHeld(moment), ({ at, shift }) => drag.to(at, shift));
}

/** What a control says when the pointer rests on it: its name, whose it is where there are several, and what holds it. */
function controlWords(shot: Shot, id: string): string {
  const member = shot.members.at(id);
  if (member.kind === 'rig') return `${member.name} as a whole`;
  const rig = member.parent === null ? undefined : shot.members.get(member.parent);
  const rigs = shot.members.values().filter((m) => m.kind === 'rig').length;
  const held = holdAt(member, live.now?.at ?? 1)?.by;
  const holder = held?.is === 'member' ? shot.members.get(held.member)?.name : undefined;
  const how = held?.is === 'stage' ? ' · planted' : holder ? ` · carried by ${holder}` : '';
  return (rigs > 1 && rig ? `${rig.name}: ${member.name}` : member.name) + how;
}
