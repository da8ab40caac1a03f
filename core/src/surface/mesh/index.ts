export { type Finish, type Surface, surfaceKey, surfaceOf, surfaces } from './finishes.ts';
export { type Detail, type FormPart, formOf } from './forms.ts';
export type { Mesh } from './mesh.ts';
