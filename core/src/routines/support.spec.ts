import { applySupport, SUPPORTS, type Putting } from './support';

const USUAL: Putting<'spoken' | 'tap'> = { answerMode: 'spoken', exposureMs: 750, readyMs: 1000 };

describe('a child’s support', () => {
  it('changes nothing where there is none', () => {
    expect(applySupport(USUAL, [])).toEqual(USUAL);
  });

  it('leaves the picture there, gives more time, and takes what is shown for what is spoken', () => {
    expect(applySupport(USUAL, ['no-flash'])).toEqual({ ...USUAL, exposureMs: null });
    expect(applySupport(USUAL, ['more-time'])).toEqual({ ...USUAL, readyMs: 2000 });
    expect(applySupport({ ...USUAL, readyMs: null }, ['more-time']).readyMs).toBeNull();
    expect(applySupport(USUAL, ['pointing']).answerMode).toBe('show');
    expect(applySupport(USUAL, ['adult-speaks']).answerMode).toBe('show');
    // Who taps points already.
    expect(applySupport({ ...USUAL, answerMode: 'tap' }, [...SUPPORTS])).toEqual({
      answerMode: 'tap',
      exposureMs: null,
      readyMs: 2000,
    });
  });
});
