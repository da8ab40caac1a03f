import type { Cover, PatternName } from '../document/material.ts';

/** A material of the house, as it is put on a form: its colours, what lies on it, and how its surface is. */
export interface StockMaterial {
  readonly name: string;
  readonly colour: string;
  readonly cover: Cover | null;
  readonly roughness: number;
  readonly metal: number;
  readonly glow: number;
  readonly clear: number;
}

const dull = { metal: 0, glow: 0, clear: 0 } as const;
const pattern = (name: PatternName, second: string, scale: number, grain: number): Cover => ({
  is: 'pattern',
  pattern: name,
  second,
  scale,
  grain,
});

/** What the harbour is made of. A new one is a line here. */
export const stockMaterials: readonly StockMaterial[] = [
  { name: 'deck planks', colour: '#b58f63', cover: pattern('planks', '#6e4c2c', 1.2, 0.7), roughness: 0.75, ...dull },
  {
    name: 'mess-room parquet',
    colour: '#b37a45',
    cover: pattern('parquet', '#7a4a24', 1.6, 0.6),
    roughness: 0.45,
    ...dull,
  },
  { name: 'quay brick', colour: '#9a5644', cover: pattern('brick', '#c9bda9', 1.1, 0.7), roughness: 0.95, ...dull },
  { name: 'galley tile', colour: '#e7e6df', cover: pattern('tile', '#8d948f', 0.8, 0.4), roughness: 0.25, ...dull },
  { name: 'cabin paper', colour: '#d9cfb4', cover: pattern('paper', '#8a9a86', 0.9, 0.5), roughness: 0.95, ...dull },
  { name: 'pea-coat felt', colour: '#36455c', cover: pattern('felt', '#56657d', 0.5, 0.8), roughness: 1, ...dull },
  {
    name: 'mooring rust',
    colour: '#4f6470',
    cover: pattern('rust', '#8f4a22', 1.5, 0.6),
    roughness: 0.7,
    metal: 0.3,
    glow: 0,
    clear: 0,
  },
  { name: 'harbour water', colour: '#2f5560', cover: pattern('water', '#6f96a0', 3, 0.6), roughness: 0.15, ...dull },
  {
    name: 'awning stripes',
    colour: '#efe8da',
    cover: pattern('stripes', '#b4483a', 0.8, 0.3),
    roughness: 0.95,
    ...dull,
  },
  { name: 'floor checks', colour: '#e9e2d2', cover: pattern('checks', '#4b5256', 1.6, 0.4), roughness: 0.4, ...dull },
  { name: 'whitewash', colour: '#efe9dc', cover: pattern('felt', '#d8cfbd', 2, 0.5), roughness: 0.98, ...dull },
  { name: 'quay flags', colour: '#a5a59d', cover: pattern('tile', '#72736d', 2.4, 0.9), roughness: 0.6, ...dull },
  { name: 'brass', colour: '#c79a48', cover: null, roughness: 0.3, metal: 0.85, glow: 0, clear: 0 },
  { name: 'lamp glass', colour: '#dfeee8', cover: null, roughness: 0.08, metal: 0, glow: 0, clear: 0.65 },
  { name: 'lantern glow', colour: '#ffcf87', cover: null, roughness: 0.6, metal: 0, glow: 2.5, clear: 0 },
];
