/** Small dense linear algebra over row-major Float64Arrays of n × n. */

/**
 * Inverse of a symmetric positive definite matrix, in place, by Cholesky's factor.
 * @throws RangeError when the matrix is not positive definite
 */
export function invert(a: Float64Array, n: number): void {
  // Factor: a = L Lᵀ, L in the lower triangle.
  for (let j = 0; j < n; j++) {
    let d = a[j * n + j]!;
    for (let k = 0; k < j; k++) d -= a[j * n + k]! ** 2;
    if (!(d > 0)) throw new RangeError('the matrix is not positive definite');
    const root = Math.sqrt(d);
    a[j * n + j] = root;
    for (let i = j + 1; i < n; i++) {
      let s = a[i * n + j]!;
      for (let k = 0; k < j; k++) s -= a[i * n + k]! * a[j * n + k]!;
      a[i * n + j] = s / root;
    }
  }
  // L⁻¹ in the lower triangle.
  for (let j = 0; j < n; j++) {
    a[j * n + j] = 1 / a[j * n + j]!;
    for (let i = j + 1; i < n; i++) {
      let s = 0;
      for (let k = j; k < i; k++) s -= a[i * n + k]! * a[k * n + j]!;
      a[i * n + j] = s / a[i * n + i]!;
    }
  }
  // L⁻ᵀ L⁻¹, both triangles.
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let s = 0;
      for (let k = i; k < n; k++) s += a[k * n + i]! * a[k * n + j]!;
      a[i * n + j] = s;
    }
  }
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) a[j * n + i] = a[i * n + j]!;
}
