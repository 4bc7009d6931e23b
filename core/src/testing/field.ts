import type { PlacedFact } from '../reading/features';
import type { FieldPrior } from '../reading/normalField';

/** A small field for tests: four facts of two families. */
export const PRIOR: FieldPrior = {
  mean: Float64Array.of(0.5, -0.3),
  variance: Float64Array.of(2, 0.5),
  familyVariance: 0.4,
  operationVariance: 0.3,
  ownVariance: 0.6,
};
export const FACTS: PlacedFact[] = [
  { features: Float64Array.of(1, 0), family: 'a', effects: [0, 1] },
  { features: Float64Array.of(1, 1), family: 'a', effects: [0, 2] },
  { features: Float64Array.of(1, 1), family: 'b', effects: [0, 1] },
  { features: Float64Array.of(1, -1), family: 'b', effects: [0, 1] },
];
