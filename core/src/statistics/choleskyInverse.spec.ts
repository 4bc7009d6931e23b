import { normal, seeded } from '../random/random';
import fc from '../testing/property';
import { invert } from './choleskyInverse';

describe('the inverse of a symmetric positive definite matrix', () => {
  it('is R’s (solve of R 4.2.2)', () => {
    const a = Float64Array.of(4, 1.2, -0.5, 1.2, 3, 0.7, -0.5, 0.7, 2.5);
    invert(a, 3);
    const reference = [
      0.306783369803063, -0.146608315098468, 0.102407002188184, -0.146608315098468, 0.426695842450766,
      -0.148796498905908, 0.102407002188184, -0.148796498905908, 0.462144420131291,
    ];
    reference.forEach((value, i) => expect(a[i]).toBeCloseTo(value, 12));
  });

  it('times the matrix is the identity', () => {
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 1, max: 8 }), (seed, n) => {
        const random = seeded(seed);
        const root = Array.from({ length: n * n }, () => normal(random));
        // B Bᵀ + I is positive definite.
        const a = Float64Array.from({ length: n * n }, (_, at) => {
          const [i, j] = [Math.floor(at / n), at % n];
          let sum = i === j ? 1 : 0;
          for (let k = 0; k < n; k++) sum += root[i * n + k]! * root[j * n + k]!;
          return sum;
        });
        const inverse = a.slice();
        invert(inverse, n);
        for (let i = 0; i < n; i++)
          for (let j = 0; j < n; j++) {
            let sum = 0;
            for (let k = 0; k < n; k++) sum += a[i * n + k]! * inverse[k * n + j]!;
            expect(sum).toBeCloseTo(i === j ? 1 : 0, 8);
          }
      }),
    );
  });

  it('is refused where there is none', () => {
    expect(() => invert(Float64Array.of(1, 2, 2, 1), 2)).toThrow(RangeError);
  });
});
