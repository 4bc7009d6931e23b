import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { USUAL_WORDS } from '../routines/classWords';
import { USUAL_OPTIONS, type Options } from '../routines/options';
import { english } from '../words/english/index';
import { drawnPages, type PrintWish } from './allPrints';
import { MATS } from './mats';

/**
 * Pages as they were looked at and found good: a change of a drawing shows here first. Whoever means it opens the page that is named, looks, and writes its new mark down.
 */
const WISH: PrintWish = {
  what: 'flash-cards',
  paper: 'A4',
  ink: 'colour',
  size: 'middle',
  cut: true,
  backs: true,
  answers: true,
  layouts: ['five', 'frame-fives', 'frame-pairs', 'dice', 'domino', 'scatter', 'mirror', 'beads', 'line'],
  numbers: [7, 0, 3, 5, 10],
  mat: 'ten',
};
const page = (change: Partial<PrintWish>, options: Partial<Options> = {}): string =>
  drawnPages({ ...WISH, ...change }, { words: USUAL_WORDS, options: { ...USUAL_OPTIONS, ...options }, say: english })
    .map(({ svg }) => svg)
    .join('\n');

const PAGES: Readonly<Record<string, () => string>> = {
  'flash cards': () => page({}),
  'flash cards in black, small, uncut, on Letter': () =>
    page({ ink: 'black', size: 'small', cut: false, paper: 'Letter', backs: false }),
  'pair cards in black': () => page({ what: 'pair-cards', ink: 'black' }),
  'pair cards down': () => page({ what: 'pair-cards', size: 'large' }, { direction: 'columns' }),
  'crossed-off cards': () => page({ what: 'crossed-off-cards' }),
  dominoes: () => page({ what: 'dominoes', numbers: [6, 10] }),
  'sentence cards with their key, one on the next page': () =>
    page({ what: 'sentence-cards', numbers: [2, 5, 9, 10], backs: false }, { gap: 'anywhere' }),
  'fill and write': () => page({ what: 'fill-and-write', numbers: [0, 3, 8] }),
  'fill and write in black without answers, down': () =>
    page({ what: 'fill-and-write', numbers: [4], ink: 'black', answers: false }, { direction: 'columns' }),
  'all the ways': () => page({ what: 'all-the-ways', numbers: [0, 4, 10] }),
  ...Object.fromEntries(MATS.map((mat) => [`mat: ${mat}`, () => page({ what: 'mats', mat })])),
  ...Object.fromEntries(
    MATS.map((mat) => [
      `mat: ${mat}, down, start box hidden`,
      () => page({ what: 'mats', mat }, { direction: 'columns', startBox: 'hidden' }),
    ]),
  ),
};

const AS_DRAWN: Readonly<Record<string, string>> = {
  'flash cards': '0a1690e73d10',
  'flash cards in black, small, uncut, on Letter': '835ad3bfc173',
  'pair cards in black': '73087d29634e',
  'pair cards down': '33e865ff2552',
  'crossed-off cards': 'cc05df4cd85b',
  dominoes: 'd3e14b74748e',
  'sentence cards with their key, one on the next page': '3a1a1bc25932',
  'fill and write': 'f7048b012308',
  'fill and write in black without answers, down': 'bae377912c7b',
  'all the ways': 'a27ce79289a4',
  'mat: five': '343f9cadcd26',
  'mat: ten': 'a92b1b4d1131',
  'mat: two-tens': '0b99ae1e859a',
  'mat: part-whole': '4f5662296437',
  'mat: three-parts': '3ff58ba9eb64',
  'mat: five, down, start box hidden': 'cdf6640308df',
  'mat: ten, down, start box hidden': 'cfd37648b135',
  'mat: two-tens, down, start box hidden': '6bb6fa2676fd',
  'mat: part-whole, down, start box hidden': '4f5662296437',
  'mat: three-parts, down, start box hidden': '3ff58ba9eb64',
};

describe('pages as they were looked at', () => {
  it('are all in this list', () => expect(Object.keys(PAGES)).toEqual(Object.keys(AS_DRAWN)));

  it.each(Object.keys(PAGES))('%s', (name) => {
    const drawn = PAGES[name]!();
    const mark = createHash('sha256').update(drawn).digest('hex').slice(0, 12);
    if (mark !== AS_DRAWN[name]) {
      const file = join(tmpdir(), `${name.replace(/\W+/g, '-')}.html`);
      writeFileSync(file, drawn);
      throw new Error(`drawn otherwise than before: look at ${file}; its mark is ${mark}`);
    }
    expect(mark).toBe(AS_DRAWN[name]);
  });
});
