import type { Dot, FramePicture } from './frame';

/** Spots without a frame, as pure geometry. Unit of length: one cell; origin top left. All take whole numbers from 0 to 10 and throw RangeError otherwise. */
const whole = (name: string, n: number, most = 10): number => {
  if (!Number.isInteger(n) || n < 0 || n > most)
    throw new RangeError(`${name} holds whole numbers from 0 to ${most}, not ${n}`);
  return n;
};

const R = 0.34;
const at = (x: number, y: number, r = R): Dot => ({ cx: x + 0.5, cy: y + 0.5, r });

/** Faces of a die on three cells by three; seven to nine go on in the same spirit, ten is not a face. */
const FACES: readonly (readonly (readonly [number, number])[])[] = [
  [],
  [[1, 1]],
  [
    [0, 0],
    [2, 2],
  ],
  [
    [0, 0],
    [1, 1],
    [2, 2],
  ],
  [
    [0, 0],
    [2, 0],
    [0, 2],
    [2, 2],
  ],
  [
    [0, 0],
    [2, 0],
    [1, 1],
    [0, 2],
    [2, 2],
  ],
  [
    [0, 0],
    [2, 0],
    [0, 1],
    [2, 1],
    [0, 2],
    [2, 2],
  ],
  [
    [0, 0],
    [2, 0],
    [0, 1],
    [1, 1],
    [2, 1],
    [0, 2],
    [2, 2],
  ],
  [
    [0, 0],
    [1, 0],
    [2, 0],
    [0, 1],
    [2, 1],
    [0, 2],
    [1, 2],
    [2, 2],
  ],
  [
    [0, 0],
    [1, 0],
    [2, 0],
    [0, 1],
    [1, 1],
    [2, 1],
    [0, 2],
    [1, 2],
    [2, 2],
  ],
];

const face = (n: number, dx = 0): Dot[] => FACES[n]!.map(([x, y]) => at(x + dx, y));

/** The face of a die, 0 to 9. */
export function dice(count: number): FramePicture {
  return { width: 3, height: 3, boxes: [], dots: face(whole('a die', count, 9)) };
}

/** Two faces with a bar between: the first part at the left. */
export function domino(first: number, second: number): FramePicture & { readonly bar: number } {
  return {
    width: 7,
    height: 3,
    boxes: [],
    dots: [...face(whole('a domino', first, 9)), ...face(whole('a domino', second, 9), 4)],
    bar: 3.5,
  };
}

/** The same on both sides of a line, with one on the line when the number is odd. */
export function mirror(count: number): FramePicture {
  const half = Math.floor(whole('a mirror', count) / 2);
  const height = 3.4;
  // Pairs go down in two columns, the outer a little lower; the whole stands in the middle of the field.
  const rows = Math.ceil(half / 2);
  const used = half === 0 ? 1 : rows + (half > 1 ? 0.4 : 0);
  const top = (height - used) / 2;
  const dots: Dot[] = [];
  for (let i = 0; i < half; i++) {
    const [x, y] = [0.2 + (i % 2), top + Math.floor(i / 2) + (i % 2) * 0.4];
    dots.push(at(1.6 - x, y), at(3.4 + x, y));
  }
  if (count % 2 === 1) dots.push(at(2.5, height / 2 - 0.5));
  return { width: 6, height, boxes: [], dots };
}

/** Beads on a string in two shades of five, pushed together at the left: the first five solid, the next five open. */
export function beads(count: number): FramePicture & { readonly open: readonly Dot[] } {
  const all = Array.from({ length: whole('a bead string', count) }, (_, i) => at(i, 0, 0.46));
  return { width: 10, height: 1, boxes: [], dots: all.slice(0, 5), open: all.slice(5) };
}

/** Objects on a line, evenly apart. */
export function onALine(count: number): FramePicture {
  return {
    width: 10,
    height: 1,
    boxes: [],
    dots: Array.from({ length: whole('a line', count) }, (_, i) => at(i, 0, 0.3)),
  };
}

/** Two hands of five fingers, the left first: which of the ten are out. */
export function fingers(count: number): boolean[] {
  whole('two hands', count);
  return Array.from({ length: 10 }, (_, i) => i < count);
}
