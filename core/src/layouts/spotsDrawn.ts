import { box, hollow, LINE, solid, stroke, type Drawn } from './drawn';
import { drawDots } from './framesDrawn';
import { beads, dice, domino, fingers, mirror, onALine } from './spots';

export type SpotLayout = 'dice' | 'domino' | 'mirror' | 'beads' | 'line' | 'fingers';

/** Spots in one of the layouts without a frame. */
export function drawSpots(layout: SpotLayout, count: number): Drawn {
  switch (layout) {
    case 'dice':
      return drawDots(dice(count));
    case 'mirror':
      return drawDots(mirror(count));
    case 'line':
      return { width: 10, height: 1, body: stroke('M0 .95h10') + solid(onALine(count).dots) };
    case 'beads': {
      const picture = beads(count);
      return { width: 10, height: 1, body: stroke('M0 .5h10') + solid(picture.dots) + hollow(picture.open) };
    }
    case 'domino':
      return drawDomino(Math.ceil(count / 2), Math.floor(count / 2), false);
    case 'fingers':
      return drawFingers(count);
  }
}

/** A domino; its second half may lie under a cover. */
export function drawDomino(first: number, second: number, covered: boolean): Drawn {
  const { bar, ...picture } = domino(first, second);
  const dots = covered ? picture.dots.slice(0, first) : picture.dots;
  const lines = Array.from({ length: 11 }, (_, i) => `M${bar} ${0.25 * (i + 1)}h${7 - bar}`).join('');
  const cover = covered ? stroke(lines, 0.08) : '';
  return { width: 7, height: 3, body: box(0, 0, 7, 3, 0.3) + stroke(`M${bar} 0v3`) + cover + solid(dots) };
}

/** The face of a die in its square. */
export const drawDie = (count: number): Drawn => ({
  width: 3.4,
  height: 3.4,
  body: `${box(0, 0, 3.4, 3.4, 0.5)}<g transform="translate(.2 .2)">${drawDots(dice(count)).body}</g>`,
});

/** Lengths of the fingers of a hand that lies palm down, thumb first. */
const FINGER = [1.3, 2.2, 2.5, 2.3, 1.8];

function drawFingers(count: number): Drawn {
  const { width, height, up } = fingers(count);
  const one = (i: number): string => {
    const right = i >= 5;
    // The left hand's thumb is at its right; a child counts from the little finger on the left to the little finger on the right.
    const length = (right ? FINGER[i - 5]! : FINGER[4 - i]!) * (up[i] ? 1 : 0.32);
    const x = i * 1.05 + (right ? 0.9 : 0) + 0.1;
    return `<rect x="${x}" y="${3 - length}" width=".8" height="${length}" rx=".38" fill="${up[i] ? 'currentColor' : 'none'}" stroke="currentColor" stroke-width="${LINE}"/>`;
  };
  return {
    width,
    height,
    body: box(0.05, 2.9, 5.1, 1, 0.4) + box(6.2, 2.9, 5.1, 1, 0.4) + up.map((_, i) => one(i)).join(''),
  };
}
