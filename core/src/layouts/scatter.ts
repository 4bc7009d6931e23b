import type { Random } from '../random/random';
import type { FramePicture } from './frame';

/** Size of the field in dot-lattice steps, and the dots' radius. Every dot stands in a cell of its own, moved within it, so that none touch and no pattern is meant. */
const COLUMNS = 5;
const ROWS = 3;
const RADIUS = 0.26;
const PLAY = 0.2;

/**
 * Dots scattered over a field, for counting one by one: a picture without boxes.
 * @param count whole number from 0 to 15
 * @throws RangeError otherwise
 */
export function scatter(random: Random, count: number): FramePicture {
  if (!Number.isInteger(count) || count < 0 || count > COLUMNS * ROWS)
    throw new RangeError(`scatter holds whole numbers from 0 to ${COLUMNS * ROWS}, not ${count}`);
  const cells = Array.from({ length: COLUMNS * ROWS }, (_, i) => i);
  const dots = Array.from({ length: count }, () => {
    const cell = cells.splice(Math.floor(random() * cells.length), 1)[0]!;
    const moved = (): number => (2 * random() - 1) * PLAY;
    return { cx: (cell % COLUMNS) + 0.5 + moved(), cy: Math.floor(cell / COLUMNS) + 0.5 + moved(), r: RADIUS };
  });
  return { width: COLUMNS, height: ROWS, boxes: [], dots };
}
