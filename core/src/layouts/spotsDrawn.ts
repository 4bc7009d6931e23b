import { box, hollow, solid, stroke, type Drawn } from './drawn';
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

/** Lengths of the four fingers beside the thumb, from the little one. */
const FINGER = [1.7, 2.3, 2.6, 2.25];
const HAND_WIDTH = 5.6;

/**
 * A left hand seen from its back, the little finger first and the thumb last: what is out stands off the palm, what is folded lies on it.
 * @param up by finger, in that order
 */
function hand(up: readonly boolean[]): string {
  const palm = '<path d="M.4 3.1h3.7q.3 0 .3.4v1.5q0 1.5-1.5 1.5h-1.4q-1.4 0-1.4-1.6z" fill="currentColor"/>';
  const four = FINGER.map((length, i) => {
    const x = 0.36 + i * 0.99;
    // A folded finger is a knuckle and a line on the palm.
    return up[i]
      ? `<rect class="out" x="${x}" y="${3.4 - length}" width=".86" height="${length}" rx=".43" fill="currentColor"/>`
      : `<rect x="${x}" y="2.85" width=".86" height="1.5" rx=".43" fill="currentColor" stroke="#fff" stroke-width=".07"/>`;
  });
  const thumb = up[4]
    ? '<rect class="out" x="3.75" y="2.6" width=".9" height="2.3" rx=".45" fill="currentColor" transform="rotate(38 4.2 4.8)"/>'
    : '<rect x="2.3" y="4.5" width="2.1" height=".86" rx=".43" fill="currentColor" stroke="#fff" stroke-width=".07"/>';
  return palm + four.join('') + thumb;
}

/** The left hand, then the right: a child counts from the little finger on the left to the little finger on the right. */
function drawFingers(count: number): Drawn {
  const up = fingers(count);
  const right = `<g transform="translate(${2 * HAND_WIDTH + 0.4} 0) scale(-1 1)">${hand(up.slice(5).reverse())}</g>`;
  return { width: 2 * HAND_WIDTH + 0.4, height: 6.5, body: hand(up.slice(0, 5)) + right };
}
