import { goesWith, KEPT } from './copies';

describe('a copy on the device', () => {
  const own = '/api/classes/c1';
  it('of a class goes when the class does, whichever of its addresses says so', () => {
    for (const refused of [own, `${own}/readings`, `${own}/over-time`])
      for (const copy of [own, `${own}/readings`, `${own}/children/k1/over-time`])
        expect([copy, KEPT.test(copy), goesWith(copy, refused)]).toEqual([copy, true, true]);
    expect(goesWith('/api/classes/c10', own)).toBe(false);
    expect(goesWith('/api/me', own)).toBe(false);
  });

  it('of a child goes when the child does, and nobody else’s', () => {
    const refused = `${own}/children/k1`;
    expect([`${refused}`, `${refused}/over-time`].map((copy) => goesWith(copy, refused))).toEqual([true, true]);
    expect([own, `${own}/readings`, `${own}/children/k2`].map((copy) => goesWith(copy, refused))).toEqual([
      false,
      false,
      false,
    ]);
  });
});
