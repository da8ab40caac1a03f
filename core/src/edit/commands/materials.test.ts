import { describe, expect, test } from 'vitest';
import { shownChannels } from '../../document/channels.ts';
import { documentOf, emptyShot, type Shot } from '../../document/shot.ts';
import { frameOf, Program } from '../../evaluate/program.ts';
import { parseShot } from '../../parse/index.ts';
import { Rigs } from '../../rig/rigs.ts';
import { stockMaterials } from '../../surface/index.ts';
import { changeChannels } from './change.ts';
import { makeOf, removeMaterial, setMaterial } from './materials.ts';
import { addMember, newMember } from './members.ts';

const bring = (shot: Shot, kind: 'ball' | 'group', id: string) =>
  addMember.apply(shot, { member: newMember(shot, { kind, id }) });
const room = bring(bring(emptyShot('s', 'S'), 'ball', 'b'), 'group', 'g');
const key = (shot: Shot, frame: number, values: Record<string, number>) =>
  changeChannels.apply(shot, { frame, values, autoKey: 'every' });
const planks = stockMaterials.find((m) => m.cover)!;
const surfaceOf = (shot: Shot) =>
  shownChannels(shot.members.at('b'), shot.rigs).flatMap((c) => (c.id.startsWith('surface.') ? [c.id] : []));

describe('a material', () => {
  const made = makeOf.apply(room, { ids: ['b', 'g'], stock: planks });

  test('gives forms its colours and the channels of a surface, and nothing else anything', () => {
    expect(surfaceOf(room)).toEqual([]);
    expect(surfaceOf(made)).toEqual(['surface.roughness', 'surface.metal', 'surface.glow', 'surface.clear']);
    expect(made.members.at('g')).toBe(room.members.at('g'));
    expect(frameOf(made, 1).value('b', 'surface.roughness')).toBe(planks.roughness);
    const again = parseShot(JSON.parse(JSON.stringify(documentOf(made))), Rigs.none);
    expect(again.ok && again.value.members.toJSON()).toEqual(made.members.toJSON());
  });

  test('its channels are keyed like any, also by a program that was there before', () => {
    const program = new Program(room);
    program.update(made);
    const keyed = key(key(made, 1, { 'b.surface.glow': 1 }), 11, { 'b.surface.glow': 3 });
    program.update(keyed);
    const frame = program.createFrame();
    program.evaluate(11, frame);
    expect(frame.value('b', 'surface.glow')).toBe(3);
    expect(frame.value('b', 'move.y')).toBe(frameOf(room, 1).value('b', 'move.y'));
  });

  test('taken away again leaves nothing of itself, and a shot that reads', () => {
    const keyed = key(made, 1, { 'b.surface.glow': 1, 'b.move.x': 2 });
    const plain = removeMaterial.apply(keyed, { ids: ['b', 'g'] });
    expect(surfaceOf(plain)).toEqual([]);
    expect([...plain.curves.keys()]).toEqual(['b.move.x']);
    expect(Object.keys(plain.members.at('b').values).some((id) => id.startsWith('surface.'))).toBe(false);
    expect(parseShot(JSON.parse(JSON.stringify(documentOf(plain))), Rigs.none).ok).toBe(true);
  });

  test('laid on by hand keeps the colour', () => {
    const laid = setMaterial.apply(room, { ids: ['b'], material: { name: 'mine', cover: planks.cover } });
    expect(laid.members.at('b').values).toEqual(room.members.at('b').values);
    expect(laid.members.at('b').material?.cover).toEqual(planks.cover);
  });
});
