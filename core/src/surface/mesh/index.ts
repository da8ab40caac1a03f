export { type Finish, type Surface, surfaceKey, surfaceOf, surfaces } from './finishes.ts';
export { type Detail, type FormPart, formKey, formOf, hasForm } from './forms.ts';
export type { Mesh } from './mesh.ts';
