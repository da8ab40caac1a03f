export { paintedTile, patternTile, TILE } from './tile.ts';
