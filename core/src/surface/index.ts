export { type StockMaterial, stockMaterials } from './materials.ts';
export * from './mesh/index.ts';
export * from './pattern/index.ts';
