import { seeded, normal } from '../random/random';
import type { Response } from '../record/response';
import { someResponse } from '../testing/response';
import { unknownEstimate } from './judgeChild';
import { stepLines } from './stepLines';

const FACTS = ['8+0', '7+1', '6+2', '5+3', '4+4', '5+4'];
const row = (fact: string, ms: number, i: number): Response =>
  someResponse({ id: String(i), shownAt: i, fact, responseMs: ms, given: '8' });

describe('time against steps', () => {
  it.each([
    ['rises with a child that counts', 700],
    ['is flat for a child that knows', 0],
  ])('%s, lapses or not (seed 4)', (_, perStep) => {
    const random = seeded(4);
    const responses = Array.from({ length: 48 }, (_, i) => {
      const fact = FACTS[i % FACTS.length]!;
      const steps = Math.min(...fact.split('+').map(Number));
      return row(fact, 1500 + perStep * steps + 60 * normal(random) + (i % 9 === 0 ? 8000 : 0), i);
    });
    const lines = stepLines(responses, unknownEstimate('Bram'), false);
    expect(lines.points).toHaveLength(48);
    expect(Math.abs((lines.fitted?.perStepMs ?? NaN) - perStep)).toBeLessThan(60);
    expect(Math.abs((lines.fitted?.atZeroMs ?? NaN) - 1500)).toBeLessThan(150);
    expect(lines.countedMs[5]! - lines.countedMs[4]!).toBeGreaterThan(300);
  });

  it('draws no line through too few steps, and counts all where the child does', () => {
    expect(stepLines([row('5+3', 2000, 1), row('5+3', 2100, 2)], unknownEstimate('Bram'), false).fitted).toBeNull();
    expect(stepLines([row('5+3', 2000, 1)], unknownEstimate('Bram'), true).points[0]?.steps).toBe(8);
    expect(stepLines([], unknownEstimate('Bram'), false)).toMatchObject({ points: [], fitted: null, mode: 'tap' });
  });
});
