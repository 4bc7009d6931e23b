import { seeded } from '../random/random';
import { makeChild } from './child';
import { answersUntil } from './settle';

describe('answers needed until most facts are read rightly @long', () => {
  it('is a number of whole sittings after the warm-up, the same each time, and ends where it is told to', () => {
    const once = () => answersUntil(makeChild('a', 'stops at a number', seeded(5)), 'planned', seeded(2), 0.8, 140);
    expect(once()).toBe(once());
    expect((once() - 8) % 12).toBe(0);
    expect(answersUntil(makeChild('a', 'plain', seeded(5)), 'shuffled', seeded(2), 1.01, 60)).toBe(60);
  });
});
