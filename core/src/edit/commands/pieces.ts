import { channelPath, colourChannels, ORIENTATION, standardChannels } from '../../document/channels.ts';
import { childrenOf } from '../../document/hierarchy.ts';
import { kinds } from '../../document/kinds/index.ts';
import { type Member, MemberSchema } from '../../document/member.ts';
import { pathsOf } from '../../document/paths.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import { newId } from '../../schema/ids.ts';
import { type Breaking, broken, type Piece } from '../../surface/pieces/index.ts';
import { defineCommand } from '../edit.ts';
import { valuesWithout, withoutChannels } from '../without-channels.ts';

/**
 * Breaks a form into pieces. It becomes a group that stands and moves as it did, with the pieces under it, each about its own middle and in
 * its colour; what bent it is gone.
 */
export const breakUp = defineCommand<{ id: string; pieces: readonly Member[] }>({
  name: 'member.break',
  label: ({ id, pieces }, shot) => `break ${memberWords(shot, [id])} into ${pieces.length} pieces`,
  apply(shot, { id, pieces }) {
    const whole = shot.members.at(id);
    const stays = new Set([...standardChannels.map((c) => channelPath(id, c.id)), channelPath(id, ORIENTATION)]);
    const custom = new Set(whole.custom.map((c) => channelPath(id, `custom.${c.id}`)));
    const gone = pathsOf(whole, shot.rigs).filter((path) => !stays.has(path) && !custom.has(path));
    const lost = new Set(gone);
    const { material: _, ...rest } = whole;
    const own = valuesWithout(whole, (channel) => lost.has(channelPath(id, channel)));
    const group = { ...rest, ...own, kind: 'group', shape: {}, deformers: [] } as Member;
    const left = withoutChannels(shot, gone);
    return { ...left, members: left.members.with(id, group).withAll(pieces.map((p) => [p.id, p])) };
  },
});

/** The pieces of a form as members, for {@link breakUp}. @throws Refused where it cannot be broken */
export function brokenPieces(shot: Shot, id: string, breaking: Breaking): Member[] {
  const whole = shot.members.at(id);
  const colour = Object.fromEntries(
    Object.entries(whole.values).filter(([c]) => c.startsWith('colour.') || c.startsWith('surface.')),
  );
  const rank = childrenOf(shot, id).at(-1)?.rank ?? 0;
  return broken(whole, breaking).map((piece, i) =>
    MemberSchema.parse({
      id: newId(),
      name: `${whole.name.slice(0, 70)} piece ${i + 1}`,
      kind: 'piece',
      parent: id,
      rank: rank + i + 1,
      shape: shapeOf(piece),
      values: { ...colourChannels(kinds[whole.kind].colour), ...colour, ...placeOf(piece) },
      ...(whole.material ? { material: whole.material } : {}),
    }),
  );
}

const placeOf = ({ middle }: Piece) => ({ 'move.x': middle[0], 'move.y': middle[1], 'move.z': middle[2] });

/** The surface of a piece about its middle; seams between bodies that are one are inside it. */
function shapeOf({ bodies, middle }: Piece) {
  const positions: number[] = [];
  const normals: number[] = [];
  const triangles: number[] = [];
  for (const { faces } of bodies)
    for (const { corners, normals: shades, is } of faces) {
      if (is === 'seam') continue;
      const first = positions.length / 3;
      corners.forEach((v, i) => {
        positions.push(v - middle[i % 3]);
      });
      for (const v of shades) normals.push(Math.round(Math.max(-1, Math.min(1, v)) * 100));
      for (let k = 1; k + 1 < corners.length / 3; k++) triangles.push(first, first + k, first + k + 1);
    }
  return { positions, normals, triangles, from: middle };
}
