import { factInPrint, isNumberFact, parseFact } from '../facts/fact';
import { isFact } from '../facts/question';
import { below, beside, drawCounter, toSvg, type Counters, type Drawn } from '../layouts/drawn';
import { capacity, frame, type Direction, type FrameLayout } from '../layouts/frame';
import {
  drawCover,
  drawCrossedOff,
  drawDots,
  drawGroups,
  drawMovedOut,
  drawRow,
  drawStick,
  drawTrays,
  drawUpTo,
} from '../layouts/framesDrawn';
import { scatter } from '../layouts/scatter';
import { drawDie, drawDomino, drawSpots, type SpotLayout } from '../layouts/spotsDrawn';
import { drawNumeral, drawPartWhole, drawSymbols, drawWays } from '../layouts/symbolsDrawn';
import { seeded } from '../random/random';
import type { Pair } from './ways';

/** What stands on the child's stage, as data. */
export type Picture =
  | { readonly show: 'nothing' }
  | { readonly show: 'counter'; readonly counters: Counters }
  | {
      readonly show: 'frame';
      readonly layout: FrameLayout;
      readonly count: number;
      readonly direction: Direction;
      readonly open?: number;
      readonly counters?: Counters;
    }
  /** Counters in these boxes, against the filling rule. */
  | {
      readonly show: 'frame-anywhere';
      readonly layout: FrameLayout;
      readonly boxes: readonly number[];
      readonly direction: Direction;
      readonly counters?: Counters;
    }
  /** What there is, and a ring round as many boxes as there are to be: what is missing stays empty. */
  | {
      readonly show: 'up-to';
      readonly first: number;
      readonly whole: number;
      readonly direction: Direction;
      readonly counters?: Counters;
    }
  | {
      readonly show: 'crossed-off' | 'moved-out';
      readonly count: number;
      readonly gone: number;
      readonly direction: Direction;
      readonly counters?: Counters;
      readonly firstRow?: boolean;
      readonly layout?: FrameLayout;
    }
  | {
      readonly show: 'two-part';
      readonly first: number;
      readonly second: number;
      readonly direction: Direction;
      readonly counters?: Counters;
    }
  /** `moved`: so many on the first came from the second, and are told apart. */
  | {
      readonly show: 'two-frames';
      readonly first: number;
      readonly second: number;
      readonly moved?: number;
      readonly outside: boolean;
    }
  | { readonly show: 'spots'; readonly layout: SpotLayout; readonly count: number }
  | { readonly show: 'scatter'; readonly count: number; readonly seed: number }
  | { readonly show: 'sets'; readonly left: Picture; readonly right: Picture }
  | { readonly show: 'groups'; readonly count: number; readonly of: 2 | 5 }
  /** `side`: the one that is asked about. */
  | {
      readonly show: 'row';
      readonly count: number;
      readonly cuts: readonly number[];
      readonly counters?: Counters;
      readonly side?: 'first' | 'second';
    }
  | { readonly show: 'stick'; readonly first: number; readonly second: number; readonly hidden: boolean }
  | { readonly show: 'trays'; readonly first: number; readonly second: number; readonly counters?: Counters }
  | { readonly show: 'halves'; readonly first: number; readonly second: number; readonly covered: boolean }
  | { readonly show: 'die'; readonly face: number; readonly whole: number }
  | {
      readonly show: 'ways';
      readonly whole: number;
      readonly ways: readonly (Pair | null)[];
      /** Pairs that light up. */
      readonly lit?: readonly Pair[];
    }
  | { readonly show: 'numeral'; readonly n: number }
  | { readonly show: 'sentence'; readonly fact: string; readonly over?: Picture }
  | { readonly show: 'sentences'; readonly lines: readonly string[] }
  | {
      readonly show: 'part-whole';
      readonly whole: number | null;
      readonly first: number | null;
      readonly second: number | null;
    };

/** A number fact or a sentence beyond ten, with the gap where the answer goes. */
function sentence(text: string): string {
  if (isFact(text)) {
    const fact = parseFact(text);
    return isNumberFact(fact) && text.includes('?') ? factInPrint(text) : `${factInPrint(text)} = ?`;
  }
  return text.includes('?') || text.includes('=') ? factInPrint(text) : `${factInPrint(text)} = ?`;
}

const mixed = (layout: FrameLayout, count: number, direction: Direction, open?: number, counters?: Counters): Drawn =>
  drawDots(frame(layout, count, direction), open, counters);

function draw(picture: Picture): Drawn {
  switch (picture.show) {
    case 'nothing':
      return { width: 10, height: 4, body: '' };
    case 'counter':
      return drawCounter(picture.counters);
    case 'frame':
      return mixed(picture.layout, picture.count, picture.direction, picture.open, picture.counters);
    case 'frame-anywhere': {
      const full = frame(picture.layout, capacity(picture.layout), picture.direction);
      return drawDots({ ...full, dots: picture.boxes.map((i) => full.dots[i]!) }, undefined, picture.counters);
    }
    case 'up-to':
      return drawUpTo(picture.first, picture.whole, picture.direction, picture.counters);
    case 'crossed-off':
      return drawCrossedOff(
        frame(picture.layout ?? 'frame-fives', picture.count, picture.direction),
        picture.gone,
        picture.firstRow,
        picture.counters,
      );
    case 'moved-out':
      return drawMovedOut(picture.count, picture.gone, picture.direction, picture.counters, picture.layout);
    case 'two-part':
      return mixed('frame-fives', picture.first + picture.second, picture.direction, picture.first, picture.counters);
    case 'two-frames': {
      const second = frame('frame-fives', picture.second, 'rows');
      return beside(
        [
          mixed('frame-fives', picture.first, 'rows', picture.first - (picture.moved ?? 0)),
          drawDots(picture.outside ? { ...second, boxes: [] } : second, 0),
        ],
        0.8,
      );
    }
    case 'spots':
      return drawSpots(picture.layout, picture.count);
    case 'scatter':
      return drawDots(scatter(seeded(picture.seed), picture.count));
    case 'sets':
      return beside([draw(picture.left), draw(picture.right)], 2);
    case 'groups':
      return drawGroups(picture.count, picture.of);
    case 'row':
      return drawRow(picture.count, picture.cuts, picture.counters, picture.side);
    case 'stick':
      return drawStick(picture.first, picture.second, picture.hidden);
    case 'trays':
      return drawTrays(picture.first, picture.second, picture.counters);
    case 'halves':
      return drawDomino(picture.first, picture.second, picture.covered);
    case 'die':
      return beside([drawDie(picture.face), drawNumeral(picture.whole)], 0);
    case 'ways':
      return drawWays(picture.whole, picture.ways, picture.lit);
    case 'numeral':
      return drawNumeral(picture.n);
    case 'sentence': {
      const line = drawSymbols(sentence(picture.fact));
      return picture.over ? below([line, draw(picture.over)], 0.6) : line;
    }
    case 'sentences':
      return below(
        picture.lines.map((line) => drawSymbols(factInPrint(line))),
        0.3,
      );
    case 'part-whole':
      return drawPartWhole(picture.whole, picture.first, picture.second);
  }
}

/** A field as large as the largest of the spots, for the cover of those that have no boxes. */
const FIELD = { width: 10, height: 4, boxes: [] };

/** The picture as stand-alone SVG, with the cover that wipes its after-image. A frame is covered box by box, everything else over the whole field. `names` are accessible names; they must not give the number away. */
export function drawPicture(
  picture: Picture,
  names: Readonly<Record<Picture['show'] | 'cover', string>>,
): { readonly svg: string; readonly cover: string } {
  const drawn = draw(picture);
  const framed = picture.show === 'frame' ? frame(picture.layout, 0, picture.direction) : null;
  const field = picture.show === 'scatter' ? { ...drawn, boxes: [] } : FIELD;
  return { svg: toSvg(drawn, names[picture.show]), cover: toSvg(drawCover(framed ?? field), names.cover) };
}
