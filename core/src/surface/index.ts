export * from './lens.ts';
export { type StockMaterial, stockMaterials } from './materials.ts';
export * from './mesh/index.ts';
export * from './pattern/index.ts';
export { type Breaking, MOST_PIECES } from './pieces/index.ts';
export { type SkyLight, skyLight, sunHeight, writeSky } from './sky.ts';
