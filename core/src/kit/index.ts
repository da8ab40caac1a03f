export * from './commands.ts';
export { type BarMove, type BarMoved, barMoved, type FootRow, footRows, piecesOf } from './gait-chart.ts';
export { type Field, firstSettings, type Kit, soundSettings } from './kit.ts';
export { kitOf, kits } from './kits.ts';
export { cook, isUntouched, type RecipeResult } from './recipe.ts';
