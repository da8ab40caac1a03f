import { makeOf, newMember, type Shot, type StockMaterial, stockMaterials } from '@varrup/core';

/** What the harbour is made of, and in what light it stands: the same shots, so that the stage looks like a place. */

interface Dressing {
  readonly hour: number;
  readonly haze: number;
  /** Of each member what it is made of, and how large its pattern lies where it is not as usual. */
  readonly made: Readonly<Record<string, readonly [stock: string, scale?: number]>>;
}

const dressings: Readonly<Record<string, Dressing>> = {
  'float-on-the-steps': {
    hour: 16.4,
    haze: 0.25,
    made: {
      floor: ['quay flags', 2.4],
      quay: ['quay brick', 1.4],
      steps: ['quay flags', 2.4],
      wall: ['quay brick', 1.4],
      coping: ['whitewash'],
      crate: ['deck planks', 0.9],
    },
  },
  'porter-crosses': {
    hour: 16.7,
    haze: 0.25,
    made: {
      quay: ['deck planks', 2.4],
      crate: ['deck planks', 0.9],
      bollard: ['mooring rust', 1],
      'bollard-cap': ['mooring rust', 1],
    },
  },
  'goat-on-the-wall': {
    hour: 11,
    haze: 0.2,
    made: { quay: ['quay flags', 2.4], wall: ['quay brick', 1.2], coping: ['whitewash'] },
  },
  'heave-the-sack': {
    hour: 16.9,
    haze: 0.3,
    made: {
      quay: ['quay flags', 2.4],
      bed: ['deck planks', 1],
      headboard: ['deck planks', 0.8],
      bollard: ['mooring rust', 1],
      'bollard-cap': ['mooring rust', 1],
    },
  },
  'pile-driver': {
    hour: 9,
    haze: 0.4,
    made: {
      water: ['harbour water', 5],
      quay: ['quay flags', 2.4],
      hull: ['mooring rust', 2.5],
      deck: ['deck planks', 1.6],
      'pile-1': ['deck planks', 0.7],
      'pile-2': ['deck planks', 0.7],
      'pile-3': ['deck planks', 0.7],
      'pile-4': ['deck planks', 0.7],
    },
  },
  'ferry-board': {
    hour: 16.6,
    haze: 0.3,
    made: { floor: ['deck planks', 2.4], wall: ['quay brick', 1.4] },
  },
  'hand-signals': { hour: 15, haze: 0.25, made: { floor: ['deck planks', 2], post: ['mooring rust', 0.8] } },
  'snapping-toolbox': {
    hour: 16.8,
    haze: 0.3,
    made: {
      floor: ['deck planks', 2],
      crate: ['deck planks', 0.7],
      bollard: ['mooring rust', 1],
      'bollard-cap': ['mooring rust', 1],
    },
  },
};

const stockOf = (name: string): StockMaterial => {
  const stock = stockMaterials.find((m) => m.name === name);
  if (!stock) throw new Error(`There is no material "${name}" in the house.`);
  return stock;
};

/** A shot with its materials, and its sky. */
export function dressed(shot: Shot): Shot {
  const dressing = dressings[shot.id];
  if (!dressing) return shot;
  const made = Object.entries(dressing.made).reduce((next, [id, [name, scale]]) => {
    const stock = stockOf(name);
    const cover = stock.cover && scale ? { ...stock.cover, scale } : stock.cover;
    return makeOf.apply(next, { ids: [id], stock: { ...stock, cover } });
  }, shot);
  const { hour, haze } = dressing;
  const sky = newMember(made, { kind: 'sky', id: 'sky', name: 'Sky', values: { hour, haze } });
  return { ...made, members: made.members.with('sky', sky) };
}
