import { describe, expect, it } from 'vitest';
import { emptyShot, type Shot } from '../document/shot.ts';
import { frameOf } from '../evaluate/program.ts';
import { Ground } from '../ground/ground.ts';
import { changeChannels } from './commands/change.ts';
import { addMember, newMember } from './commands/members.ts';
import { putDown } from './put-down.ts';

/** A box that hangs over a ramp, turned anyhow, in a group that stands elsewhere. */
function overRamp(rotation: 'angles' | 'orientation' = 'angles'): Shot {
  let shot = emptyShot('s', 'S');
  const add = (member: ReturnType<typeof newMember>) => {
    shot = addMember.apply(shot, { member });
  };
  add(newMember(shot, { kind: 'wedge', id: 'ramp', shape: { width: 4, height: 2, depth: 4 } }));
  add(newMember(shot, { kind: 'group', id: 'g', values: { 'move.x': 0.5, 'turn.y': 0.6 } }));
  const values = { 'move.x': -0.4, 'move.y': 4, 'turn.y': 0.4, 'turn.z': 0.1 };
  add({ ...newMember(shot, { kind: 'box', id: 'b', parent: 'g', values }), rotation });
  return shot;
}
const put = (shot: Shot, square: boolean) =>
  changeChannels.apply(shot, { frame: 1, values: putDown(shot, 'b', 1, square), autoKey: 'off' });

describe('putting down', () => {
  it.each(['angles', 'orientation'] as const)('stands square on a ramp below, touching it (%s)', (rotation) => {
    const shot = put(overRamp(rotation), true);
    const frame = frameOf(shot, 1);
    const at = frame.layout.slotOf.get('b')! * 16;
    const ramp = [1 / Math.hypot(2, 1), 2 / Math.hypot(2, 1), 0];
    [...frame.world.subarray(at + 4, at + 7)].forEach((v, i) => {
      expect(v).toBeCloseTo(ramp[i], 9);
    });
    const touch = new Ground(shot).touch(frame, 'b');
    expect(touch?.member).toBe('ramp');
    expect(touch?.gap).toBeCloseTo(0, 6);
  });

  it('as it stands only lowers it, and keeps where it is seen from above', () => {
    const before = overRamp();
    const shot = put(before, false);
    const [was, now] = [frameOf(before, 1), frameOf(shot, 1)];
    const at = now.layout.slotOf.get('b')! * 16;
    for (const i of [0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 14]) expect(now.world[at + i]).toBeCloseTo(was.world[at + i], 9);
    expect(now.world[at + 13]).toBeLessThan(was.world[at + 13]);
    expect(new Ground(shot).touch(now, 'b')?.gap).toBeCloseTo(0, 6);
  });

  it('says nothing of what has no form', () => {
    expect(putDown(overRamp(), 'g', 1, true)).toEqual({});
  });
});
