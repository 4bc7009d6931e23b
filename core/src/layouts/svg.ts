import { factInPrint, isNumberFact, parseFact } from '../facts/fact';
import type { Dot, FramePicture } from './frame';
import { beads, dice, domino, fingers, mirror, onALine } from './spots';

/** Line width and margin in box sides. */
const LINE = 0.04;
const MARGIN = 0.06;

const open = (picture: Pick<FramePicture, 'width' | 'height'>, label: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${-MARGIN} ${-MARGIN} ${picture.width + 2 * MARGIN} ${picture.height + 2 * MARGIN}" role="img" aria-label="${label}">`;

const boxes = (picture: FramePicture): string =>
  picture.boxes.map((b) => `<rect x="${b.x}" y="${b.y}" width="1" height="1" fill="none" stroke="currentColor" stroke-width="${LINE}"/>`).join('');

const solid = (dots: readonly Dot[]): string => dots.map((d) => `<circle cx="${d.cx}" cy="${d.cy}" r="${d.r}" fill="currentColor"/>`).join('');
const hollow = (dots: readonly Dot[]): string =>
  dots.map((d) => `<circle cx="${d.cx}" cy="${d.cy}" r="${d.r - 0.04}" fill="none" stroke="currentColor" stroke-width="0.08"/>`).join('');

/**
 * A frame as a stand-alone SVG: black line art in the text colour, one user unit to a box side.
 * @param label accessible name; on the child's stage it must not give the number away
 */
export const frameSvg = (picture: FramePicture, label: string): string => `${open(picture, label)}${boxes(picture)}${solid(picture.dots)}</svg>`;

/** A frame whose last dots are crossed off: crossed off means gone. */
export function crossedOffSvg(picture: FramePicture, gone: number, label: string): string {
  const crosses = picture.dots
    .slice(picture.dots.length - gone)
    .map(({ cx, cy }) => `<path d="M${cx - 0.42} ${cy - 0.42}l.84 .84m0 -.84l-.84 .84" stroke="currentColor" stroke-width="0.07" fill="none"/>`)
    .join('');
  const kept = picture.dots.slice(0, picture.dots.length - gone);
  return `${open(picture, label)}${boxes(picture)}${solid(kept)}${hollow(picture.dots.slice(kept.length))}${crosses}</svg>`;
}

/** A frame in two kinds of counters: the first part solid, the rest open. */
export const twoPartSvg = (picture: FramePicture, first: number, label: string): string =>
  `${open(picture, label)}${boxes(picture)}${solid(picture.dots.slice(0, first))}${hollow(picture.dots.slice(first))}</svg>`;

/** Spots in one of the layouts without a frame. */
export function spotsSvg(layout: 'dice' | 'domino' | 'mirror' | 'beads' | 'line' | 'fingers', count: number, label: string): string {
  switch (layout) {
    case 'dice':
      return frameSvg(dice(count), label);
    case 'mirror':
      return frameSvg(mirror(count), label);
    case 'line':
      return `${open({ width: 10, height: 1 }, label)}<path d="M0 .95h10" stroke="currentColor" stroke-width="${LINE}"/>${solid(onALine(count).dots)}</svg>`;
    case 'beads': {
      const picture = beads(count);
      return `${open(picture, label)}<path d="M0 .5h10" stroke="currentColor" stroke-width="${LINE}"/>${solid(picture.dots)}${hollow(picture.open)}</svg>`;
    }
    case 'domino': {
      const picture = domino(Math.ceil(count / 2), Math.floor(count / 2));
      return `${open(picture, label)}<rect x="0" y="0" width="7" height="3" rx=".3" fill="none" stroke="currentColor" stroke-width="${LINE}"/><path d="M${picture.bar} 0v3" stroke="currentColor" stroke-width="${LINE}"/>${solid(picture.dots)}</svg>`;
    }
    case 'fingers':
      return fingersSvg(count, label);
  }
}

/** Lengths of the fingers of a hand that lies palm down, thumb first. */
const FINGER = [1.3, 2.2, 2.5, 2.3, 1.8];

function fingersSvg(count: number, label: string): string {
  const { width, height, up } = fingers(count);
  const one = (i: number): string => {
    const right = i >= 5;
    // The left hand's thumb is at its right; a child counts from the little finger on the left to the little finger on the right.
    const length = (right ? FINGER[i - 5]! : FINGER[4 - i]!) * (up[i] ? 1 : 0.32);
    const x = i * 1.05 + (right ? 0.9 : 0) + 0.1;
    return `<rect x="${x}" y="${3 - length}" width=".8" height="${length}" rx=".38" fill="${up[i] ? 'currentColor' : 'none'}" stroke="currentColor" stroke-width="${LINE}"/>`;
  };
  const palm = (x: number): string => `<rect x="${x}" y="2.9" width="5.1" height="1" rx=".4" fill="none" stroke="currentColor" stroke-width="${LINE}"/>`;
  return `${open({ width, height }, label)}${palm(0.05)}${palm(6.2)}${up.map((_, i) => one(i)).join('')}</svg>`;
}

/**
 * The cover that replaces a frame after a flash: the same boxes, each crossed by the same fine lattice whatever the number was, so that no after-image of
 * the dots is left to count. A picture without boxes is covered by a lattice over its whole field.
 */
export function coverSvg(picture: FramePicture): string {
  const cells =
    picture.boxes.length > 0
      ? picture.boxes
      : Array.from({ length: Math.ceil(picture.width) * Math.ceil(picture.height) }, (_, i) => ({
          x: i % Math.ceil(picture.width),
          y: Math.floor(i / Math.ceil(picture.width)),
        }));
  const strokes: string[] = [];
  for (const b of cells) {
    for (let i = 1; i <= 4; i++) {
      const at = i / 5;
      strokes.push(`M${b.x + at} ${b.y}v1M${b.x} ${b.y + at}h1`);
    }
  }
  const lattice = `<path d="${strokes.join('')}" fill="none" stroke="currentColor" stroke-width="0.06" stroke-opacity="0.45"/>`;
  return `${open(picture, 'cover')}${boxes(picture)}${lattice}</svg>`;
}

const text = (x: number, y: number, size: number, content: string): string =>
  `<text x="${x}" y="${y}" font-size="${size}" text-anchor="middle" fill="currentColor" font-family="ABeeZee, sans-serif">${content}</text>`;

/** A numeral alone, for copying. */
export const numeralSvg = (n: number): string => `${open({ width: 5, height: 2 }, 'numeral')}${text(2.5, 1.62, 1.8, String(n))}</svg>`;

/** A fact as a sentence of symbols, with a box where the answer goes. */
export function sentenceSvg(factText: string): string {
  const fact = parseFact(factText);
  const asked = isNumberFact(fact) && factText.includes('?') ? factInPrint(factText) : `${factInPrint(factText)} = ?`;
  const parts = asked.split(' ');
  const width = parts.length * 1.3;
  const drawn = parts.map((part, i) => {
    const x = (i + 0.5) * 1.3;
    if (part === '?') return `<rect x="${x - 0.5}" y=".5" width="1" height="1.1" rx=".08" fill="none" stroke="currentColor" stroke-width="0.06"/>`;
    return text(x, 1.5, 1.3, part);
  });
  return `${open({ width, height: 2.1 }, 'a sentence')}${drawn.join('')}</svg>`;
}

/** The part-whole picture: the whole above, its two parts below; null = to be found. */
export function partWholeSvg(wholeNumber: number | null, first: number | null, second: number | null): string {
  const spot = (x: number, y: number, n: number | null): string =>
    `<circle cx="${x}" cy="${y}" r=".85" fill="none" stroke="currentColor" stroke-width="0.06"/>${n === null ? '' : text(x, y + 0.38, 1.1, String(n))}`;
  const lines = '<path d="M2.5 1.7L1.45 3.05M3.5 1.7L4.55 3.05" stroke="currentColor" stroke-width="0.06"/>';
  return `${open({ width: 6, height: 4.9 }, 'a part-whole picture')}${lines}${spot(3, 1, wholeNumber)}${spot(1, 3.8, first)}${spot(5, 3.8, second)}</svg>`;
}
