import type { Random } from '../random/random';
import type { Dot, FramePicture } from './frame';

/** The field, in the unit of the frames' box side; the air between two dots, and at both edges together. */
const WIDTH = 6;
const HEIGHT = 4;
const GAP = 0.16;
const EDGE = 0.1;
const MOST_SCATTERED = 10;
/** Five dots have this radius and fill this part of the field, whichever way they are balanced. */
const MIDDLE = 5;
const RADIUS = 0.34;
const ROOM = 0.62;
/** How often all dots together keep their ink, or their room; else each dot keeps its own, and more dots have more. */
const KEEPS = 2 / 3;

/** More dots in one straight, even row than this look like a row of a frame. */
const ROW = 3;

/**
 * Dots scattered over a field: no two touch, no frame is hidden in them, and neither how much ink there is nor how wide they spread gives the number away. In
 * most shows all dots together have the same ink and fill the same room, whatever their number; in the others each dot is of one size, or has room of its own.
 * @param count whole number from 0 to 10
 * @throws RangeError otherwise
 */
export function scatter(random: Random, count: number): FramePicture {
  if (!Number.isInteger(count) || count < 0 || count > MOST_SCATTERED)
    throw new RangeError(`scatter holds whole numbers from 0 to ${MOST_SCATTERED}, not ${count}`);
  const share = Math.max(1, count) / MIDDLE;
  const r = random() < KEEPS ? Math.min(0.55, RADIUS / Math.sqrt(share)) : RADIUS * 0.8;
  const room = (random() < KEEPS ? ROOM : Math.min(0.9, ROOM * Math.sqrt(share))) * (0.95 + 0.1 * random());
  for (;;) {
    const dots = spread(placed(random, count, r), room, r);
    if (apart(dots, r) && !holdsRow(dots)) return { width: WIDTH, height: HEIGHT, boxes: [], dots };
  }
}

const placed = (random: Random, count: number, r: number): Dot[] =>
  Array.from({ length: count }, () => ({ cx: random(), cy: random(), r }));

/** Stretches places between 0 and 1 so that together they fill just the room, in the middle of the field. */
function spread(dots: readonly Dot[], room: number, r: number): Dot[] {
  const stretched = (value: (d: Dot) => number, size: number): ((d: Dot) => number) => {
    const values = dots.map(value);
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const wide = Math.min(size - 2 * r - EDGE, size * room);
    return (d) =>
      high > low ? size / 2 + ((value(d) - low) / (high - low) - 0.5) * wide : r + value(d) * (size - 2 * r);
  };
  const [x, y] = [stretched((d) => d.cx, WIDTH), stretched((d) => d.cy, HEIGHT)];
  return dots.map((d) => ({ cx: x(d), cy: y(d), r }));
}

const apart = (dots: readonly Dot[], r: number): boolean =>
  dots.every((a, i) => dots.slice(i + 1).every((b) => Math.hypot(a.cx - b.cx, a.cy - b.cy) >= 2 * r + GAP));

/** Whether more than `ROW` dots stand in a straight row at even steps, as in a frame. */
export function holdsRow(dots: readonly Dot[]): boolean {
  const near = (x: number, y: number, slack: number): boolean =>
    dots.some((d) => Math.hypot(d.cx - x, d.cy - y) < slack);
  return dots.some((a) =>
    dots.some((b) => {
      if (a === b) return false;
      const [dx, dy] = [b.cx - a.cx, b.cy - a.cy];
      const slack = 0.12 * Math.hypot(dx, dy);
      return Array.from({ length: ROW - 1 }, (_, i) => near(b.cx + (i + 1) * dx, b.cy + (i + 1) * dy, slack)).every(
        Boolean,
      );
    }),
  );
}
