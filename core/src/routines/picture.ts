import { frame, type Direction, type FrameLayout } from '../layouts/frame';
import { scatter } from '../layouts/scatter';
import { coverSvg, crossedOffSvg, frameSvg, numeralSvg, partWholeSvg, sentenceSvg, spotsSvg, twoPartSvg } from '../layouts/svg';
import { seeded } from '../random/random';

/** What stands on the child's stage, as data. */
export type Picture =
  | { readonly show: 'frame'; readonly layout: FrameLayout; readonly count: number; readonly direction: Direction }
  | { readonly show: 'crossed-off'; readonly count: number; readonly gone: number; readonly direction: Direction }
  | { readonly show: 'two-part'; readonly first: number; readonly second: number; readonly direction: Direction }
  | { readonly show: 'spots'; readonly layout: 'dice' | 'domino' | 'mirror' | 'beads' | 'line' | 'fingers'; readonly count: number }
  | { readonly show: 'scatter'; readonly count: number; readonly seed: number }
  | { readonly show: 'numeral'; readonly n: number }
  | { readonly show: 'sentence'; readonly fact: string }
  | { readonly show: 'part-whole'; readonly whole: number | null; readonly first: number | null; readonly second: number | null };

/** A field as large as the largest of the spots, for the cover of those that have no boxes. */
const FIELD = { width: 10, height: 4, boxes: [], dots: [] };

/** The picture as stand-alone SVG, with the cover that wipes its after-image. Names give nothing away: the child may hear them read. */
export function drawPicture(picture: Picture): { readonly svg: string; readonly cover: string } {
  switch (picture.show) {
    case 'frame': {
      const drawn = frame(picture.layout, picture.count, picture.direction);
      return { svg: frameSvg(drawn, 'a frame'), cover: coverSvg(drawn) };
    }
    case 'crossed-off': {
      const drawn = frame('frame-fives', picture.count, picture.direction);
      return { svg: crossedOffSvg(drawn, picture.gone, 'a frame'), cover: coverSvg(drawn) };
    }
    case 'two-part': {
      const drawn = frame('frame-fives', picture.first + picture.second, picture.direction);
      return { svg: twoPartSvg(drawn, picture.first, 'a frame'), cover: coverSvg(drawn) };
    }
    case 'spots':
      return { svg: spotsSvg(picture.layout, picture.count, 'spots'), cover: coverSvg(FIELD) };
    case 'scatter': {
      const drawn = scatter(seeded(picture.seed), picture.count);
      return { svg: frameSvg(drawn, 'a set'), cover: coverSvg(drawn) };
    }
    case 'numeral':
      return { svg: numeralSvg(picture.n), cover: coverSvg(FIELD) };
    case 'sentence':
      return { svg: sentenceSvg(picture.fact), cover: coverSvg(FIELD) };
    case 'part-whole':
      return { svg: partWholeSvg(picture.whole, picture.first, picture.second), cover: coverSvg(FIELD) };
  }
}
