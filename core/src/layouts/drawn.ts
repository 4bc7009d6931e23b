import type { Dot } from './frame';

/** A piece of line art in the text colour, in user units: put together with others, then closed into one SVG. */
export interface Drawn {
  readonly width: number;
  readonly height: number;
  readonly body: string;
}

/** Line width and margin in box sides. */
export const LINE = 0.04;
const MARGIN = 0.06;

/**
 * Closes a drawing into a stand-alone SVG.
 * @param label accessible name; on the child's stage it must not give the number away
 */
export const toSvg = ({ width, height, body }: Drawn, label: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${-MARGIN} ${-MARGIN} ${width + 2 * MARGIN} ${height + 2 * MARGIN}" role="img" aria-label="${label}">${body}</svg>`;

export const text = (x: number, y: number, size: number, content: string): string =>
  `<text x="${x}" y="${y}" font-size="${size}" text-anchor="middle" fill="currentColor" font-family="ABeeZee, sans-serif">${content}</text>`;

export const stroke = (d: string, width = LINE): string =>
  `<path d="${d}" fill="none" stroke="currentColor" stroke-width="${width}"/>`;

export const box = (x: number, y: number, width: number, height: number, round = 0): string =>
  `<rect x="${x}" y="${y}" width="${width}" height="${height}" rx="${round}" fill="none" stroke="currentColor" stroke-width="${LINE}"/>`;

const moved = (drawn: Drawn, x: number, y: number): string => `<g transform="translate(${x} ${y})">${drawn.body}</g>`;

/** Drawings next to one another, each in the middle of the common height. */
export function beside(parts: readonly Drawn[], gap: number): Drawn {
  const height = Math.max(...parts.map((p) => p.height));
  let x = 0;
  const body = parts
    .map((part) => {
      const placed = moved(part, x, (height - part.height) / 2);
      x += part.width + gap;
      return placed;
    })
    .join('');
  return { width: x - gap, height, body };
}

/** Drawings one below the other, each in the middle of the common width. */
export function below(parts: readonly Drawn[], gap: number): Drawn {
  const width = Math.max(...parts.map((p) => p.width));
  let y = 0;
  const body = parts
    .map((part) => {
      const placed = moved(part, (width - part.width) / 2, y);
      y += part.height + gap;
      return placed;
    })
    .join('');
  return { width, height: y - gap, body };
}

/** What lies in the boxes: plain dots for measuring, the class's own things for stories. */
export const COUNTERS = ['dots', 'lanterns', 'buoys', 'shells', 'pebbles'] as const;
export type Counters = (typeof COUNTERS)[number];

/** One thing within a circle of radius 1 about 0, as outlines to fill and lines that stay clear. */
const THINGS: Record<Exclude<Counters, 'dots'>, { readonly outline: string; readonly detail: string }> = {
  lanterns: {
    outline: 'M-.55-.5h1.1l.15.9-.3.5h-.8l-.3-.5zM-.28-.5l.1-.25h.36l.1.25zM0-.75v-.25',
    detail: 'M-.25-.3v.65M.25-.3v.65',
  },
  buoys: { outline: 'M-.32-.75h.64l.4 1.15c0 .4-.3.6-.72.6s-.72-.2-.72-.6z', detail: 'M-.5-.15h1M-.62.25h1.24' },
  shells: {
    outline: 'M0 .85L-.95-.1C-.85-.6-.45-.85 0-.85S.85-.6.95-.1z',
    detail: 'M0 .7V-.6M-.15.6L-.5-.45M.15.6L.5-.45',
  },
  pebbles: {
    outline: 'M-.9.1C-.95-.5-.4-.75.1-.7.65-.65.95-.3.9.15.85.6.4.75-.1.72-.5.7-.85.55-.9.1z',
    detail: 'M-.45-.2c.2-.2.5-.25.75-.2',
  },
};

/** One counter. Open ones are the second kind: told apart by their form, never by colour alone. */
export function counter({ cx, cy, r }: Dot, open: boolean, counters: Counters = 'dots'): string {
  if (counters === 'dots') {
    return open
      ? `<circle cx="${cx}" cy="${cy}" r="${r - 0.04}" fill="none" stroke="currentColor" stroke-width="0.08"/>`
      : `<circle cx="${cx}" cy="${cy}" r="${r}" fill="currentColor"/>`;
  }
  const { outline, detail } = THINGS[counters];
  const lines = open ? 'stroke="currentColor"' : 'stroke="#fff"';
  return `<g class="counter" transform="translate(${cx} ${cy}) scale(${r * 1.15})"><path d="${outline}" fill="${open ? 'none' : 'currentColor'}" stroke="currentColor" stroke-width=".12" stroke-linejoin="round"/><path d="${detail}" fill="none" ${lines} stroke-width=".1" stroke-linecap="round"/></g>`;
}

export const solid = (dots: readonly Dot[], counters?: Counters): string =>
  dots.map((d) => counter(d, false, counters)).join('');
export const hollow = (dots: readonly Dot[], counters?: Counters): string =>
  dots.map((d) => counter(d, true, counters)).join('');

/** One counter alone in a square of one box side. */
export const drawCounter = (counters: Counters): Drawn => ({
  width: 1,
  height: 1,
  body: counter({ cx: 0.5, cy: 0.5, r: 0.34 }, false, counters),
});
