export { type Breaking, broken, MOST_PIECES, type Piece } from './broken.ts';
