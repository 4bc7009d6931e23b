import type { Drawn } from '../layouts/drawn';
import { frame, type Direction, type FrameLayout } from '../layouts/frame';
import { drawDots } from '../layouts/framesDrawn';
import { drawPartWhole } from '../layouts/symbolsDrawn';
import type { Words } from '../routines/classWords';
import type { Catalogue } from '../words/catalogue';
import { fitted, places } from './grid';
import { plain } from './ink';
import { INK, label, pageOf, sheetOf, type PaperName, type PrintPage } from './paper';

export const MATS = ['five', 'ten', 'two-tens', 'part-whole', 'three-parts'] as const satisfies readonly Mat[];
export type Mat = keyof Catalogue['prints']['mats'];

interface MatWish {
  readonly paper: PaperName;
  readonly direction: Direction;
  /** Whether the box that is filled first is marked. */
  readonly startBox: boolean;
  readonly words: Words;
}

function emptyFrame(layout: FrameLayout, { direction, startBox }: MatWish): Drawn {
  const drawn = plain(drawDots(frame(layout, 0, direction)));
  return startBox ? { ...drawn, body: `${drawn.body}<path d="M.1 .1h.22L.1 .32z" fill="${INK}"/>` } : drawn;
}

/** A bar for the whole above three boxes for its parts. */
function threeParts({ words }: MatWish): Drawn {
  const rect = (x: number, y: number, w: number, h: number): string =>
    `<rect x="${x}" y="${y}" width="${w}" height="${h}" rx=".15" fill="none" stroke="${INK}" stroke-width=".06"/>`;
  const boxes = rect(0, 0, 12, 3.2) + [0, 1, 2].map((i) => rect(4.1 * i, 3.5, 3.8, 3.2)).join('');
  const names =
    label(0.25, 0.55, 0.4, words.whole) + [0, 1, 2].map((i) => label(4.1 * i + 0.25, 4.05, 0.4, words.part)).join('');
  return { width: 12, height: 6.7, body: boxes + names };
}

function partWhole({ words }: MatWish): Drawn {
  const drawn = plain(drawPartWhole(null, null, null));
  const names =
    label(3, 1.7, 0.2, words.whole, 'middle') +
    label(1, 4.5, 0.2, words.part, 'middle') +
    label(5, 4.5, 0.2, words.part, 'middle');
  return { ...drawn, body: drawn.body + names };
}

/** A mat to lay things on: one page, lying. */
export function matPage(mat: Mat, wish: MatWish): PrintPage {
  const sheet = sheetOf(wish.paper, true);
  const [whole] = places(sheet, 1, 1);
  const halves = places(sheet, wish.direction === 'rows' ? 1 : 2, wish.direction === 'rows' ? 2 : 1);
  const body = {
    five: () => fitted(emptyFrame('five', wish), whole!, 0.98),
    ten: () => fitted(emptyFrame('frame-fives', wish), whole!, 0.98),
    'two-tens': () => halves.map((half) => fitted(emptyFrame('frame-fives', wish), half, 0.9)).join(''),
    'part-whole': () => fitted(partWhole(wish), whole!, 0.98),
    'three-parts': () => fitted(threeParts(wish), whole!, 0.96),
  }[mat]();
  return pageOf(sheet, body);
}
