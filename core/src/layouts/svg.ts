import type { FramePicture } from './frame';

/** Line width and margin in box sides. */
const LINE = 0.04;
const MARGIN = 0.06;

const open = (picture: Pick<FramePicture, 'width' | 'height'>, label: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${-MARGIN} ${-MARGIN} ${picture.width + 2 * MARGIN} ${picture.height + 2 * MARGIN}" role="img" aria-label="${label}">`;

const boxes = (picture: FramePicture): string =>
  picture.boxes.map((b) => `<rect x="${b.x}" y="${b.y}" width="1" height="1" fill="none" stroke="currentColor" stroke-width="${LINE}"/>`).join('');

/**
 * A frame as a stand-alone SVG: black line art in the text colour, one user unit to a box side.
 * @param label accessible name; on the child's stage it must not give the number away
 */
export function frameSvg(picture: FramePicture, label: string): string {
  const dots = picture.dots.map((d) => `<circle cx="${d.cx}" cy="${d.cy}" r="${d.r}" fill="currentColor"/>`).join('');
  return `${open(picture, label)}${boxes(picture)}${dots}</svg>`;
}

/**
 * The cover that replaces a frame after a flash: the same boxes, each crossed by the same fine lattice whatever the number was, so that no after-image of
 * the dots is left to count.
 */
export function coverSvg(picture: FramePicture): string {
  const strokes: string[] = [];
  for (const b of picture.boxes) {
    for (let i = 1; i <= 4; i++) {
      const at = i / 5;
      strokes.push(`M${b.x + at} ${b.y}v1M${b.x} ${b.y + at}h1`);
    }
  }
  const lattice = `<path d="${strokes.join('')}" fill="none" stroke="currentColor" stroke-width="0.06" stroke-opacity="0.45"/>`;
  return `${open(picture, 'cover')}${boxes(picture)}${lattice}</svg>`;
}

/** A numeral alone, for copying. */
export function numeralSvg(n: number): string {
  const size = { width: 5, height: 2 };
  return `${open(size, 'numeral')}<text x="2.5" y="1.62" font-size="1.8" text-anchor="middle" fill="currentColor" font-family="ABeeZee, sans-serif">${n}</text></svg>`;
}
