/**
 * Frames as pure geometry. Unit of length: one box side. Origin at the top left, x to the right, y down.
 */
export type FrameLayout = 'five' | 'frame-fives' | 'frame-pairs';
export const FRAME_LAYOUTS: readonly FrameLayout[] = ['five', 'frame-fives', 'frame-pairs'];

/** `rows`: the five run from left to right. `columns`: the five run from the top down. */
export type Direction = 'rows' | 'columns';

export interface Box {
  readonly x: number;
  readonly y: number;
}
export interface Dot {
  readonly cx: number;
  readonly cy: number;
  readonly r: number;
}
/** A frame with its dots. `boxes` are in filling order, start box first; `dots[i]` stands in `boxes[i]`. */
export interface FramePicture {
  readonly width: number;
  readonly height: number;
  readonly boxes: readonly Box[];
  readonly dots: readonly Dot[];
}

/** Thrown when a layout cannot hold a number. */
export class DoesNotFit extends RangeError {
  constructor(layout: FrameLayout, count: number) {
    super(`${layout} holds whole numbers from 0 to ${capacity(layout)}, not ${count}`);
    this.name = 'DoesNotFit';
  }
}

/** Dot radius in box sides: large enough to be seen from the back of a carpet, with clear air between neighbours. */
const DOT_RADIUS = 0.34;

/** The most dots a frame holds. */
export const capacity = (layout: FrameLayout): number => (layout === 'five' ? 5 : 10);

/** Place of the i-th box along the five and across it. By pairs, a column of two is filled before the next; by fives, a row of five. */
const place = (layout: FrameLayout, i: number): [along: number, across: number] =>
  layout === 'frame-pairs' ? [Math.floor(i / 2), i % 2] : [i % 5, Math.floor(i / 5)];

/**
 * The frame with `count` dots, filled by the rule from the start box.
 * @param count whole number from 0 to the layout's capacity
 * @throws DoesNotFit otherwise
 * @example frame('frame-fives', 7, 'rows').dots.length // 7
 */
export function frame(layout: FrameLayout, count: number, direction: Direction): FramePicture {
  const size = capacity(layout);
  if (!Number.isInteger(count) || count < 0 || count > size) throw new DoesNotFit(layout, count);
  const boxes = Array.from({ length: size }, (_, i): Box => {
    const [along, across] = place(layout, i);
    return direction === 'rows' ? { x: along, y: across } : { x: across, y: along };
  });
  const across = size / 5;
  return {
    width: direction === 'rows' ? 5 : across,
    height: direction === 'rows' ? across : 5,
    boxes,
    dots: boxes.slice(0, count).map((box) => ({ cx: box.x + 0.5, cy: box.y + 0.5, r: DOT_RADIUS })),
  };
}
