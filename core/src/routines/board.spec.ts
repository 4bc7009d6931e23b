import fc from '../testing/property';
import { builtNumber, move, moveAcross, newBoard, slipOf, toggle, type BoardPlan } from './board';

const ONE: BoardPlan = { layout: 'frame-fives', frames: 1, start: [0], moves: false, byRule: true };
const TWO: BoardPlan = { layout: 'frame-fives', frames: 2, start: [8, 5], moves: true, byRule: false };
const filled = (...boxes: number[]): boolean[] => Array.from({ length: 10 }, (_, i) => boxes.includes(i));

describe('a board', () => {
  it('begins as planned', () => {
    expect(newBoard({ ...ONE, start: [3] })).toEqual(filled(0, 1, 2));
    expect(newBoard(TWO).filter(Boolean)).toHaveLength(13);
    expect(newBoard({ ...ONE, layout: 'five' })).toHaveLength(5);
  });

  it('counts what was put, or what was moved', () => {
    let board = newBoard(TWO);
    expect(builtNumber(TWO, board)).toBe(0);
    board = moveAcross(moveAcross(board, 14), 13);
    expect([builtNumber(TWO, board), board.filter(Boolean).length]).toEqual([2, 13]);
    expect(moveAcross(board, 12)).toBe(board);
    expect(builtNumber(ONE, toggle(toggle(newBoard(ONE), 0), 7))).toBe(2);
  });

  it('never has two counters in a box, and loses none in a move', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 10, maxLength: 10 }), fc.nat(9), fc.nat(9), (board, from, to) => {
        expect(move(board, from, to).filter(Boolean)).toHaveLength(board.filter(Boolean).length);
      }),
    );
  });

  it.each([
    [filled(0, 1, 2, 3, 4, 5, 6), null],
    [filled(), null],
    [filled(0, 1, 5), 'second-row-too-soon'],
    [filled(0, 2, 3), 'with-gaps'],
    [filled(4, 3), 'start-elsewhere'],
    [filled(5, 6), 'start-elsewhere'],
  ])('sees how %j lies', (board, slip) => expect(slipOf('frame-fives', board)).toBe(slip));

  it('by pairs, two rows are right', () => expect(slipOf('frame-pairs', filled(0, 1, 2))).toBeNull());
});
