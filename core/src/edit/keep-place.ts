import { channelsOf, constantValue } from '../document/channels.ts';
import type { Member } from '../document/member.ts';
import type { Shot } from '../document/shot.ts';
import { frameOf } from '../evaluate/program.ts';
import { type Angles, quaternionToAngles } from '../pose/angles.ts';
import { mat4, quat, vec3 } from '../pose/doubles.ts';
import { withinBounds } from '../schema/numbers.ts';

/**
 * A member that has got another parent, with constants that leave it where it stood in the world. Channels with curves
 * are left alone. A sheared parent cannot be undone by move, turn and size; then the place is right and the form is not.
 */
export function keepPlace(before: Shot, after: Shot, id: string, frame: number): Member {
  const old = frameOf(before, frame);
  const now = frameOf(after, frame);
  const was = worldOf(old.world, old.layout.slotOf.get(id)!);
  const member = after.members.at(id);
  const parent = member.parent === null ? mat4.create() : worldOf(now.world, now.layout.slotOf.get(member.parent)!);
  const inverse = mat4.invert(zeros(), parent);
  if (!inverse) return member;
  const local = mat4.multiply(zeros(), inverse, was);
  return withLocal(after, member, local);
}

const zeros = () => new Float64Array(16) as unknown as mat4;

const worldOf = (world: Float64Array, slot: number): mat4 => world.slice(slot * 16, slot * 16 + 16) as unknown as mat4;

function withLocal(shot: Shot, member: Member, local: mat4): Member {
  const size = mat4.getScaling([0, 0, 0], local) as [number, number, number];
  if (mat4.determinant(local) < 0) size[0] = -size[0];
  const turn = mat4.clone(local);
  for (let c = 0; c < 3; c++) for (let r = 0; r < 3; r++) turn[c * 4 + r] = local[c * 4 + r] / (size[c] || 1);
  const q = quat.normalize([0, 0, 0, 1], mat4.getRotation([0, 0, 0, 1], turn));
  const channels = new Map(channelsOf(member, shot.rigs).map((c) => [c.id, constantValue(member, c)]));
  const read = (group: string) => ['x', 'y', 'z'].map((c) => channels.get(`${group}.${c}`)!) as Angles;
  const pivot = read('pivot');
  // local = move · pivot · turn · size · pivot⁻¹, so move is where the pivot lands, less the pivot.
  const landed = vec3.transformMat4([0, 0, 0], pivot, local);
  const move = [landed[0] - pivot[0], landed[1] - pivot[1], landed[2] - pivot[2]];
  const orientation: [number, number, number, number] = [q[0], q[1], q[2], q[3]];
  const angles = quaternionToAngles(orientation, member.order, read('turn'));
  const values = { ...member.values };
  const write = (group: string, numbers: ArrayLike<number>) => {
    ['x', 'y', 'z'].forEach((c, i) => {
      if (!shot.curves.has(`${member.id}.${group}.${c}`)) values[`${group}.${c}`] = withinBounds(numbers[i]);
    });
  };
  write('move', move);
  write('size', size);
  if (member.rotation === 'angles') write('turn', angles);
  const turned = member.rotation === 'orientation' && !shot.curves.has(`${member.id}.orientation`);
  return { ...member, values, orientation: turned ? orientation : member.orientation };
}
