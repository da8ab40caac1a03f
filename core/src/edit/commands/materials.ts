import { channelPath, colourChannels } from '../../document/channels.ts';
import { type Material, surfaceChannels } from '../../document/material.ts';
import type { Member } from '../../document/member.ts';
import type { Shot } from '../../document/shot.ts';
import { memberWords } from '../../document/words.ts';
import type { StockMaterial } from '../../surface/materials.ts';
import { hasForm } from '../../surface/mesh/index.ts';
import { defineCommand } from '../edit.ts';
import { withMembers } from '../with-members.ts';
import { valuesWithout, withoutChannels } from '../without-channels.ts';

/** Those of some members that have a form. */
const formed = (shot: Shot, ids: readonly string[]): Member[] =>
  ids.flatMap((id) => shot.members.get(id) ?? []).filter((m) => hasForm(m.kind));

/** Says what forms are made of; their colours and how their surface is stay as they are. */
export const setMaterial = defineCommand<{ ids: readonly string[]; material: Material }>({
  name: 'material.set',
  label: ({ ids, material }, shot) => `make ${memberWords(shot, ids)} of ${material.name}`,
  apply: (shot, { ids, material }) =>
    withMembers(
      shot,
      formed(shot, ids).map((m) => ({ ...m, material })),
    ),
});

/** Makes forms of a material of the house: with its colours and its surface, where no curve says otherwise. */
export const makeOf = defineCommand<{ ids: readonly string[]; stock: StockMaterial }>({
  name: 'material.stock',
  label: ({ ids, stock }, shot) => `make ${memberWords(shot, ids)} of ${stock.name}`,
  apply(shot, { ids, stock: { name, colour, cover, roughness, metal, glow, clear } }) {
    const values = {
      ...colourChannels(colour),
      'surface.roughness': roughness,
      'surface.metal': metal,
      'surface.glow': glow,
      'surface.clear': clear,
    };
    return withMembers(
      shot,
      formed(shot, ids).map((m) => ({ ...m, material: { name, cover }, values: { ...m.values, ...values } })),
    );
  },
});

/** Takes what forms are made of away: they are paint again, and what their surface was is gone. */
export const removeMaterial = defineCommand<{ ids: readonly string[] }>({
  name: 'material.remove',
  label: ({ ids }, shot) => `take the material of ${memberWords(shot, ids)} away`,
  apply(shot, { ids }) {
    const members = formed(shot, ids).filter((m) => m.material);
    const paths = members.flatMap((m) => surfaceChannels.map((c) => channelPath(m.id, c.id)));
    const surface = new Set<string>(surfaceChannels.map((c) => c.id));
    const plain = members.map(
      ({ material: _, ...m }) => ({ ...m, ...valuesWithout(m as Member, (channel) => surface.has(channel)) }) as Member,
    );
    return withMembers(withoutChannels(shot, paths), plain);
  },
});
