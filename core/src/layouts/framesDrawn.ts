import { box, counter, hollow, LINE, solid, stroke, type Counters, type Drawn } from './drawn';
import { frame, type Direction, type FrameLayout, type FramePicture } from './frame';

const boxes = (picture: FramePicture): string =>
  picture.boxes
    .map(
      (b) =>
        `<rect x="${b.x}" y="${b.y}" width="1" height="1" fill="none" stroke="currentColor" stroke-width="${LINE}"/>`,
    )
    .join('');

/** A frame, or a set without boxes. `firstOpen` and later dots are of the second kind. */
export function drawDots(picture: FramePicture, firstOpen = picture.dots.length, counters?: Counters): Drawn {
  const { width, height, dots } = picture;
  return {
    width,
    height,
    body: `${boxes(picture)}${solid(dots.slice(0, firstOpen), counters)}${hollow(dots.slice(firstOpen), counters)}`,
  };
}

/** A frame with a ring round its first `whole` boxes, so that what is missing can be counted on and is not drawn. */
export function drawUpTo(first: number, whole: number, direction: Direction, counters?: Counters): Drawn {
  const drawn = drawDots(frame('frame-fives', first, direction), undefined, counters);
  const more = whole - 5;
  const corners = more > 0 ? [[0, 0], [5, 0], [5, 1], [more, 1], [more, 2], [0, 2]] : [[0, 0], [whole, 0], [whole, 1], [0, 1]]; // prettier-ignore
  const points = corners.map(([along, across]) => (direction === 'rows' ? `${along} ${across}` : `${across} ${along}`));
  return { ...drawn, body: drawn.body + (whole > 0 ? stroke(`M${points.join('L')}z`, 0.12) : '') };
}

/** A frame of which some are crossed off, the last or the first: crossed off means gone. */
export function drawCrossedOff(picture: FramePicture, gone: number, fromFirst = false, counters?: Counters): Drawn {
  const left = picture.dots.length - gone;
  const [kept, off] = fromFirst
    ? [picture.dots.slice(gone), picture.dots.slice(0, gone)]
    : [picture.dots.slice(0, left), picture.dots.slice(left)];
  const crosses = off.map(({ cx, cy }) => stroke(`M${cx - 0.42} ${cy - 0.42}l.84 .84m0 -.84l-.84 .84`, 0.07));
  return {
    width: picture.width,
    height: picture.height,
    body: boxes(picture) + solid(kept, counters) + hollow(off, counters) + crosses.join(''),
  };
}

/** A frame from which the last counters were moved out: they lie beside it, loose. Moved is not crossed off. */
export function drawMovedOut(
  count: number,
  gone: number,
  direction: Direction,
  counters?: Counters,
  layout: FrameLayout = 'frame-fives',
): Drawn {
  const kept = drawDots(frame(layout, count - gone, direction), undefined, counters);
  const loose = Array.from({ length: gone }, (_, i) => {
    const [along, across] = [(i % 5) + 0.5, Math.floor(i / 5) + 0.6];
    const [cx, cy] = direction === 'rows' ? [along, kept.height + across] : [kept.width + across, along];
    return counter({ cx, cy, r: 0.34 }, false, counters);
  });
  const wider = Math.ceil(gone / 5) + 0.2;
  return {
    width: direction === 'rows' ? kept.width : kept.width + wider,
    height: direction === 'rows' ? kept.height + wider : kept.height,
    body: kept.body + loose.join(''),
  };
}

/** A row of items with its cuts: a bar where it was cut. A side that is asked about lies over a line of its own. */
export function drawRow(count: number, cuts: readonly number[], counters?: Counters, side?: 'first' | 'second'): Drawn {
  const dots = Array.from({ length: count }, (_, i) => ({ cx: i + 0.5, cy: 0.7, r: 0.36 }));
  const bars = cuts.map((at) => stroke(`M${at} 0v1.4`, 0.09));
  const at = cuts[0] ?? count;
  const under = side === undefined ? '' : stroke(side === 'first' ? `M.1 1.3H${at - 0.2}` : `M${at + 0.2} 1.3H${count - 0.1}`, 0.14); // prettier-ignore
  return { width: Math.max(1, count), height: 1.4, body: solid(dots, counters) + bars.join('') + under };
}

/** A stick of joined pieces: the first part solid, the second open; a hidden second part is a closed sleeve of one length. */
export function drawStick(first: number, second: number, hidden: boolean): Drawn {
  const piece = (x: number, open: boolean): string =>
    `<rect x="${x}" y="0" width="1" height="1" rx=".12" fill="${open ? 'none' : 'currentColor'}" stroke="currentColor" stroke-width=".06"/>`;
  const clear = (x: number): string =>
    `<rect x="${x + 0.12}" y=".12" width=".76" height=".76" rx=".08" fill="none" stroke="#fff" stroke-width=".05"/>`;
  const shown = Array.from({ length: first }, (_, i) => piece(i, false) + clear(i)).join('');
  if (hidden) return { width: first + 3.4, height: 1, body: `${shown}${box(first + 0.4, 0, 3, 1, 0.5)}` };
  return {
    width: first + second,
    height: 1,
    body: shown + Array.from({ length: second }, (_, i) => piece(first + i, true)).join(''),
  };
}

/** Two trays of things, for moving one after another from the first to the second. */
export function drawTrays(first: number, second: number, counters?: Counters): Drawn {
  const tray = (x: number, count: number): string => {
    const dots = Array.from({ length: count }, (_, i) => ({
      cx: x + 0.75 + (i % 4) * 0.9,
      cy: 0.75 + Math.floor(i / 4) * 0.9,
      r: 0.34,
    }));
    return box(x, 0, 4.2, 3.3, 0.9) + solid(dots, counters);
  };
  return { width: 9, height: 3.3, body: tray(0, first) + tray(4.8, second) };
}

/** Equal groups, each inside a line of its own. */
export function drawGroups(count: number, of: 2 | 5): Drawn {
  const width = of === 2 ? 2.2 : 3.2;
  const columns = of === 2 ? Math.min(count, 5) : Math.min(count, 2);
  const at = of === 2 ? [[0.6, 0.75], [1.6, 0.75]] : [[0.6, 0.5], [2.6, 0.5], [1.6, 1.05], [0.6, 1.6], [2.6, 1.6]]; // prettier-ignore
  const height = of === 2 ? 1.5 : 2.1;
  const body = Array.from({ length: count }, (_, g) => {
    const [x, y] = [(g % columns) * (width + 0.3), Math.floor(g / columns) * (height + 0.3)];
    return box(x, y, width, height, 0.6) + solid(at.map(([dx, dy]) => ({ cx: x + dx!, cy: y + dy!, r: 0.3 })));
  });
  const rows = Math.ceil(count / Math.max(1, columns));
  return {
    width: Math.max(1, columns) * (width + 0.3) - 0.3,
    height: Math.max(1, rows) * (height + 0.3) - 0.3,
    body: body.join(''),
  };
}

/**
 * The cover that replaces a picture after a flash: its boxes, each crossed by the same fine lattice whatever the number was, so that no after-image of
 * the dots is left to count. A picture without boxes is covered by a lattice over its whole field.
 */
export function drawCover(picture: Pick<FramePicture, 'width' | 'height' | 'boxes'>): Drawn {
  const [columns, rows] = [Math.ceil(picture.width), Math.ceil(picture.height)];
  const cells =
    picture.boxes.length > 0
      ? picture.boxes
      : Array.from({ length: columns * rows }, (_, i) => ({ x: i % columns, y: Math.floor(i / columns) }));
  const lines = cells.flatMap((b) => [1, 2, 3, 4].map((i) => `M${b.x + i / 5} ${b.y}v1M${b.x} ${b.y + i / 5}h1`));
  const outline = picture.boxes.map((b) => box(b.x, b.y, 1, 1)).join('');
  const lattice = `<path d="${lines.join('')}" fill="none" stroke="currentColor" stroke-width="0.06" stroke-opacity="0.45"/>`;
  return { width: picture.width, height: picture.height, body: outline + lattice };
}
