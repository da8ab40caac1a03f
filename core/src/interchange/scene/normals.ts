/** The normal of each vertex: those of its triangles, the larger ones counting for more. */
export function smoothNormals(positions: Float32Array, triangles: ArrayLike<number>): Float32Array {
  const normals = new Float32Array(positions.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t] * 3, triangles[t + 1] * 3, triangles[t + 2] * 3];
    const [ux, uy, uz] = [0, 1, 2].map((r) => positions[b + r] - positions[a + r]);
    const [vx, vy, vz] = [0, 1, 2].map((r) => positions[c + r] - positions[a + r]);
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    for (const v of [a, b, c]) for (let r = 0; r < 3; r++) normals[v + r] += n[r];
  }
  for (let v = 0; v < normals.length; v += 3) {
    const length = Math.hypot(normals[v], normals[v + 1], normals[v + 2]);
    if (length > 0) for (let r = 0; r < 3; r++) normals[v + r] /= length;
    else normals[v + 1] = 1;
  }
  return normals;
}
