import { putFor, SUPPORTS, type Putting } from './support';

const USUAL: Putting<'spoken' | 'tap'> = { answerMode: 'spoken', exposureMs: 750, readyMs: 1000 };

describe('a child’s support', () => {
  it('changes nothing where there is none', () => {
    expect(putFor(USUAL, [])).toEqual(USUAL);
  });

  it('leaves the picture there, gives more time, and takes what is shown for what is spoken', () => {
    expect(putFor(USUAL, ['no-flash'])).toEqual({ ...USUAL, exposureMs: null });
    expect(putFor(USUAL, ['more-time'])).toEqual({ ...USUAL, readyMs: 2000 });
    expect(putFor({ ...USUAL, readyMs: null }, ['more-time']).readyMs).toBeNull();
    expect(putFor(USUAL, ['pointing']).answerMode).toBe('show');
    expect(putFor(USUAL, ['adult-speaks']).answerMode).toBe('show');
    // Who taps points already.
    expect(putFor({ ...USUAL, answerMode: 'tap' }, [...SUPPORTS])).toEqual({
      answerMode: 'tap',
      exposureMs: null,
      readyMs: 2000,
    });
  });
});
