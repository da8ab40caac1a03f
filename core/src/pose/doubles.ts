import { glMatrix } from 'gl-matrix';

// gl-matrix keeps its own scratch values in single precision unless told otherwise; the core computes in doubles.
glMatrix.setMatrixArrayType(Array);

export { mat4, quat, vec3 } from 'gl-matrix';
