import { drawDots } from '../layouts/framesDrawn';
import { hollow, solid, type Counters, type Drawn } from '../layouts/drawn';
import type { Dot, FramePicture } from '../layouts/frame';
import { INK, type Ink } from './paper';

/** The two kinds of counters in colour. Their form tells them apart as well: solid, and open. */
const FIRST = '#1d6a72';
const SECOND = '#8f560f';

const inked = (body: string, colour: string): string => body.replaceAll('currentColor', colour);

/** A drawing in one ink. */
export const plain = ({ width, height, body }: Drawn): Drawn => ({ width, height, body: inked(body, INK) });

/** Lines across an open counter: the pattern of the second kind where there is no colour. */
const hatched = ({ cx, cy, r }: Dot): string =>
  [-0.5, 0, 0.5]
    .map((part) => {
      const half = r * 0.82 * Math.sqrt(1 - part ** 2);
      const [x, y] = [cx + part * r * 0.7, cy + part * r * 0.7];
      const d = half * Math.SQRT1_2;
      return `<path d="M${x - d} ${y + d}L${x + d} ${y - d}" stroke="currentColor" stroke-width=".05"/>`;
    })
    .join('');

/** A set of two kinds: dots from `firstOpen` on are of the second. */
export function twoKinds(picture: FramePicture, firstOpen: number, ink: Ink, counters?: Counters): Drawn {
  const boxes = drawDots({ ...picture, dots: [] }).body;
  const [first, second] = [picture.dots.slice(0, firstOpen), picture.dots.slice(firstOpen)];
  const patterned = ink === 'black' ? second.map(hatched).join('') : '';
  const body =
    inked(boxes, INK) +
    inked(solid(first, counters), ink === 'colour' ? FIRST : INK) +
    inked(hollow(second, counters) + patterned, ink === 'colour' ? SECOND : INK);
  return { width: picture.width, height: picture.height, body };
}
