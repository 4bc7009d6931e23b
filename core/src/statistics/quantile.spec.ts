import { median, quantile } from './quantile';

describe('quantiles', () => {
  // quantile(type = 7) of R 4.2.2.
  it.each([
    [0, 0.2],
    [0.1, 0.32],
    [0.25, 1.25],
    [0.5, 3.3],
    [0.9, 8.26],
    [1, 9.1],
  ])('the %d-quantile is R’s (type 7)', (q, value) =>
    expect(quantile([2.1, 0.4, 7.7, 3.3, 3.3, 9.1, 0.2], q)).toBeCloseTo(value, 12),
  );

  it('the median is the middle one, or between the two; of nothing there is none', () => {
    expect([median([3, 1, 2]), median([4, 1, 3, 2]), median([]), quantile([], 0.2)]).toEqual([2, 2.5, null, null]);
  });
});
