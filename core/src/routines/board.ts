import { capacity, type FrameLayout } from '../layouts/frame';

/** One or two frames on which counters are put and moved, one a box: `true` = filled, in filling order, the second frame after the first. */
export type Board = readonly boolean[];

/** The board a child builds on. */
export interface BoardPlan {
  readonly layout: FrameLayout;
  readonly frames: 1 | 2;
  /** Counters that stand there from the start, by frame. */
  readonly start: readonly number[];
  /** Counters come from outside, or only move between the two frames. */
  readonly moves: boolean;
  /** The filling rule is to be kept: how the counters lie is told apart from their number. */
  readonly byRule: boolean;
  /** What the child built for the question before stays, to be checked and changed. */
  readonly keeps?: boolean;
}

/** The board at the start. */
export function newBoard({ layout, frames, start }: BoardPlan): Board {
  const size = capacity(layout);
  return Array.from({ length: size * frames }, (_, i) => i % size < (start[Math.floor(i / size)] ?? 0));
}

/** Puts a counter into an empty box, or takes it out of a filled one. */
export const toggle = (board: Board, box: number): Board => board.map((filled, i) => (i === box ? !filled : filled));

/** Moves a counter to an empty box; anything else changes nothing. */
export function move(board: Board, from: number, to: number): Board {
  if (!board[from] || board[to] !== false) return board;
  return board.map((filled, i) => (i === from ? false : i === to || filled));
}

/** The counter in `box` goes to the first empty box of the other frame; nothing changes when there is none. */
export function moveAcross(board: Board, box: number): Board {
  const size = board.length / 2;
  const other = box < size ? size : 0;
  const to = board.findIndex((filled, i) => i >= other && i < other + size && !filled);
  return to < 0 ? board : move(board, box, to);
}

/** What a child has put: how many counters, or, where they only move, how many left the second frame for the first. */
export function builtNumber(plan: BoardPlan, board: Board): number {
  const size = capacity(plan.layout);
  const count = (from: number, to: number): number => board.slice(from, to).filter(Boolean).length;
  return plan.moves ? Math.max(0, count(0, size) - (plan.start[0] ?? 0)) : count(0, board.length);
}

export const SLIPS = ['second-row-too-soon', 'start-elsewhere', 'with-gaps'] as const;
/** How the counters lie against the filling rule; told apart from the number. */
export type Slip = (typeof SLIPS)[number];

/** The slip of a frame filled against its rule; null when it was kept. */
export function slipOf(layout: FrameLayout, frame: Board): Slip | null {
  const filled = frame.filter(Boolean).length;
  if (frame.slice(0, filled).every(Boolean)) return null;
  const [firstRow, secondRow] = [frame.slice(0, 5), frame.slice(5)];
  if (layout === 'frame-fives' && secondRow.some(Boolean) && !firstRow.every(Boolean) && frame[0])
    return 'second-row-too-soon';
  return frame[0] ? 'with-gaps' : 'start-elsewhere';
}
