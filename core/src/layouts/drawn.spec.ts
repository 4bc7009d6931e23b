import { below, beside, counter, drawCounter, toSvg, type Drawn } from './drawn';
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
} from './framesDrawn';
import { frame } from './frame';
import { drawDomino, drawSpots } from './spotsDrawn';
import { dice, onALine } from './spots';
import { drawNumeral, drawPartWhole, drawSymbols, drawWays } from './symbolsDrawn';

/** Numbers of an attribute, of every element of a kind that has it; rounded, so that sums of tenths can be compared. */
const of = ({ body }: Drawn, element: string, ...names: string[]): number[][] =>
  [...body.matchAll(new RegExp(`<${element} [^>]*>`, 'g'))].map(([tag]) =>
    names.map((name) => Math.round(1000 * Number(new RegExp(` ${name}="([^"]*)"`).exec(tag)?.[1])) / 1000),
  );
const filled = ({ body }: Drawn): number => (body.match(/<circle [^>]*fill="currentColor"/g) ?? []).length;
const open = ({ body }: Drawn): number => (body.match(/<circle [^>]*fill="none"/g) ?? []).length;
const paths = ({ body }: Drawn): string[] => [...body.matchAll(/<path d="([^"]*)"/g)].map(([, d]) => d!);
const words = ({ body }: Drawn): string[] => [...body.matchAll(/>([^<]+)<\/text>/g)].map(([, word]) => word!);
/** Every dot lies within the drawing's own size. */
const inside = (drawn: Drawn): void => {
  for (const [cx, cy, r] of of(drawn, 'circle', 'cx', 'cy', 'r')) {
    expect(cx! - r!).toBeGreaterThanOrEqual(0);
    expect(cy! - r!).toBeGreaterThanOrEqual(0);
    expect(cx! + r!).toBeLessThanOrEqual(drawn.width + 1e-9);
    expect(cy! + r!).toBeLessThanOrEqual(drawn.height + 1e-9);
  }
};

describe('drawings put together', () => {
  const [small, large] = [
    { width: 2, height: 1, body: '<a/>' },
    { width: 4, height: 3, body: '<b/>' },
  ];
  it('stand beside one another in the middle of the common height', () =>
    expect(beside([small, large], 0.5)).toEqual({
      width: 6.5,
      height: 3,
      body: '<g transform="translate(0 1)"><a/></g><g transform="translate(2.5 0)"><b/></g>',
    }));
  it('lie below one another in the middle of the common width', () =>
    expect(below([small, large], 0.5)).toEqual({
      width: 4,
      height: 4.5,
      body: '<g transform="translate(1 0)"><a/></g><g transform="translate(0 1.5)"><b/></g>',
    }));
  it('are closed with a margin on every side', () =>
    expect(toSvg(large, 'a picture')).toContain('viewBox="-0.06 -0.06 4.12 3.12" role="img" aria-label="a picture"'));
});

describe('a counter', () => {
  it('is as large open as filled, and a thing of the class a little larger than its dot', () => {
    const dot = { cx: 1, cy: 2, r: 0.34 };
    expect(counter(dot, false)).toBe('<circle cx="1" cy="2" r="0.34" fill="currentColor"/>');
    expect(counter(dot, true)).toContain(
      'r="0.30000000000000004" fill="none" stroke="currentColor" stroke-width="0.08"',
    );
    expect(counter({ ...dot, r: 1 }, false, 'shells')).toMatch(/translate\(1 2\) scale\(1\.15\).* fill="currentColor"/);
    expect(counter(dot, true, 'shells')).toMatch(/ fill="none" stroke="currentColor" stroke-width=".12"/);
    expect(drawCounter('dots')).toEqual({ width: 1, height: 1, body: counter({ cx: 0.5, cy: 0.5, r: 0.34 }, false) });
  });
});

describe('a frame', () => {
  it('has its later counters open from where it is wished', () => {
    const drawn = drawDots(frame('frame-fives', 7, 'rows'), 5);
    expect([filled(drawn), open(drawn), of(drawn, 'rect', 'x').length]).toEqual([5, 2, 10]);
    expect(filled(drawDots(frame('five', 3, 'rows')))).toBe(3);
  });

  it.each([
    [8, 'rows', 'M0 0L5 0L5 1L3 1L3 2L0 2z'],
    [5, 'rows', 'M0 0L5 0L5 1L0 1z'],
    [4, 'rows', 'M0 0L4 0L4 1L0 1z'],
    [6, 'columns', 'M0 0L0 5L1 5L1 1L2 1L2 0z'],
  ] as const)('is ringed up to %i, %s', (whole, direction, ring) => {
    const drawn = drawUpTo(2, whole, direction);
    expect([paths(drawn), filled(drawn)]).toEqual([[ring], 2]);
  });
  it('without a whole has no ring', () => expect(paths(drawUpTo(0, 0, 'rows'))).toEqual([]));

  it('loses its last counters, or its first, to crosses', () => {
    const last = drawCrossedOff(frame('frame-fives', 7, 'rows'), 3);
    expect([filled(last), open(last), paths(last).length]).toEqual([4, 3, 3]);
    expect(of(last, 'circle', 'cx', 'cy').slice(4)).toEqual([[4.5, 0.5], [0.5, 1.5], [1.5, 1.5]]); // prettier-ignore
    expect(paths(last)[0]).toMatch(/^M4\.08 0\.08\d*l\.84 \.84m0 -\.84l-\.84 \.84$/);
    const first = drawCrossedOff(frame('frame-fives', 7, 'rows'), 5, true);
    expect(of(first, 'circle', 'cx', 'cy').slice(0, 2)).toEqual([[0.5, 1.5], [1.5, 1.5]]); // prettier-ignore
    expect([first.width, first.height, filled(first), open(first)]).toEqual([5, 2, 2, 5]);
  });

  it('from which some were moved out has them beside it, loose and in rows of five', () => {
    const lying = drawMovedOut(9, 7, 'rows');
    expect([lying.width, lying.height, filled(lying)]).toEqual([5, 4.2, 9]);
    expect(of(lying, 'circle', 'cx', 'cy').slice(2)).toEqual(
      [[0.5, 2.6], [1.5, 2.6], [2.5, 2.6], [3.5, 2.6], [4.5, 2.6], [0.5, 3.6], [1.5, 3.6]], // prettier-ignore
    );
    const upright = drawMovedOut(4, 2, 'columns', undefined, 'five');
    expect([upright.width, upright.height]).toEqual([2.2, 5]);
    expect(of(upright, 'circle', 'cx', 'cy').slice(2)).toEqual([[1.6, 0.5], [1.6, 1.5]]); // prettier-ignore
    inside(lying);
    inside(upright);
  });

  it('is covered by the same lattice in every box, whatever was in it; a set without boxes over its field', () => {
    const covered = (count: number): string => drawCover(frame('frame-fives', count, 'rows')).body;
    expect(covered(0)).toBe(covered(9));
    const cover = drawCover({ width: 1, height: 1, boxes: [{ x: 0, y: 0 }] });
    expect([cover.width, cover.height, of(cover, 'rect', 'x', 'y', 'width')]).toEqual([1, 1, [[0, 0, 1]]]);
    expect(paths(cover)).toEqual(['M0.2 0v1M0 0.2h1M0.4 0v1M0 0.4h1M0.6 0v1M0 0.6h1M0.8 0v1M0 0.8h1']);
    const field = drawCover({ width: 1.5, height: 2.2, boxes: [] });
    expect([paths(field)[0]?.match(/v1/g)?.length, of(field, 'rect', 'x')]).toEqual([4 * 2 * 3, []]);
    expect(paths(field)[0]).toContain('M1.2 2v1');
  });
});

describe('things in rows, sticks, trays and groups', () => {
  it('a row has its cuts between its things', () => {
    const row = drawRow(5, [2, 4]);
    expect([row.width, row.height, filled(row), paths(row)]).toEqual([5, 1.4, 5, ['M2 0v1.4', 'M4 0v1.4']]);
    expect(of(row, 'circle', 'cx', 'cy')[3]).toEqual([3.5, 0.7]);
    expect(drawRow(0, []).width).toBe(1);
  });

  it('a stick shows its parts one after the other, or a sleeve of one length for what is hidden', () => {
    const seen = drawStick(2, 3, false);
    expect([seen.width, seen.height]).toEqual([5, 1]);
    const pieces = of(seen, 'rect', 'x', 'width').filter(([, width]) => width === 1);
    expect(pieces.map(([x]) => x)).toEqual([0, 1, 2, 3, 4]);
    expect(of(seen, 'rect', 'x', 'width').filter(([, width]) => width === 0.76).map(([x]) => x)).toEqual([0.12, 1.12]); // prettier-ignore
    const [two, four] = [drawStick(2, 2, true), drawStick(2, 4, true)];
    expect(two).toEqual(four);
    expect([two.width, of(two, 'rect', 'x', 'width').at(-1)]).toEqual([5.4, [2.4, 3]]);
  });

  it('trays hold their things in rows of four', () => {
    const trays = drawTrays(5, 2);
    expect([trays.width, trays.height, filled(trays)]).toEqual([9, 3.3, 7]);
    expect(of(trays, 'rect', 'x', 'width', 'height')).toEqual([[0, 4.2, 3.3], [4.8, 4.2, 3.3]]); // prettier-ignore
    expect(of(trays, 'circle', 'cx', 'cy')).toEqual(
      [[0.75, 0.75], [1.65, 0.75], [2.55, 0.75], [3.45, 0.75], [0.75, 1.65], [5.55, 0.75], [6.45, 0.75]], // prettier-ignore
    );
    inside(drawTrays(10, 10));
  });

  it.each([
    [3, 2, 7.2, 1.5, 6],
    [5, 2, 12.2, 1.5, 10],
    [1, 5, 3.2, 2.1, 5],
    [4, 5, 6.7, 4.5, 20],
    [0, 2, 2.2, 1.5, 0],
  ] as const)('%i groups of %i are as wide and high as their lines', (count, each, width, height, dots) => {
    const drawn = drawGroups(count, each);
    expect([drawn.width.toFixed(3), drawn.height.toFixed(3), filled(drawn)]).toEqual([
      width.toFixed(3),
      height.toFixed(3),
      dots,
    ]);
    expect(of(drawn, 'rect', 'x')).toHaveLength(count);
    inside(drawn);
    const lines = of(drawn, 'rect', 'x', 'y', 'width', 'height');
    for (const [cx, cy, r] of of(drawn, 'circle', 'cx', 'cy', 'r'))
      expect(
        lines.filter(([x, y, w, h]) => cx! - r! > x! && cx! + r! < x! + w! && cy! - r! > y! && cy! + r! < y! + h!),
      ).toHaveLength(1);
  });
});

describe('symbols', () => {
  it('a numeral stands in the middle', () => {
    const ten = drawNumeral(10);
    expect([ten.width, ten.height, of(ten, 'text', 'x', 'y', 'font-size'), words(ten)]).toEqual([5, 2, [[2.5, 1.62, 1.8]], ['10']]); // prettier-ignore
  });

  it('a line has each sign in a place of its own, and a box for what is asked', () => {
    const line = drawSymbols('3 + ? = 10');
    expect([line.width, line.height, words(line)]).toEqual([6.5, 2.1, ['3', '+', '=', '10']]);
    expect(of(line, 'text', 'x', 'y', 'font-size')).toEqual([[0.65, 1.5, 1.3], [1.95, 1.5, 1.3], [4.55, 1.5, 1.3], [5.85, 1.5, 1.15]]); // prettier-ignore
    expect(of(line, 'rect', 'x', 'y', 'width', 'height')).toEqual([[2.75, 0.5, 1, 1.1]]);
  });

  it('part and whole leaves empty what is to be found', () => {
    const drawn = drawPartWhole(7, null, 4);
    expect([drawn.width, drawn.height, words(drawn)]).toEqual([6, 4.9, ['7', '4']]);
    expect(of(drawn, 'circle', 'cx', 'cy')).toEqual([[3, 1], [1, 3.8], [5, 3.8]]); // prettier-ignore
    expect(of(drawn, 'text', 'x', 'y')).toEqual([[3, 1.38], [5, 4.18]]); // prettier-ignore
    expect(paths(drawn)).toEqual(['M2.5 1.7L1.45 3.05M3.5 1.7L4.55 3.05']);
  });

  it('all the ways are bars of one length, cut where the pair is cut, and the one that is named again lights up', () => {
    const ways = drawWays(6, [[2, 4], null, [6, 0]], [[2, 4]]); // prettier-ignore
    expect([ways.width, ways.height.toFixed(2), words(ways)]).toEqual([8.5, '3.45', ['2', '4', '6', '0']]);
    expect(of(ways, 'rect', 'x', 'y', 'width')).toEqual([[0.05, 0, 8.3], [1.2, 0.15, 2], [3.2, 0.15, 4], [1.2, 1.3, 6], [1.2, 2.45, 6]]); // prettier-ignore
    expect(of(ways, 'text', 'x', 'y')).toEqual([[0.6, 0.8], [7.8, 0.8], [0.6, 3.1], [7.8, 3.1]]); // prettier-ignore
    // The same parts the other way round are another way.
    expect(drawWays(6, [[2, 4]], [[4, 2]]).body).not.toContain('class="lit"');
    expect(drawWays(6, [[2, 4]], [[2, 3]]).body).not.toContain('class="lit"');
    const nine = Array.from({ length: 9 }, (_, i) => [i, 8 - i] as const);
    const [two, one] = [drawWays(8, nine), drawWays(6, nine.slice(0, 7))];
    expect([two.width.toFixed(2), two.height.toFixed(2), one.width, one.height.toFixed(2)]).toEqual([
      '17.90',
      '5.75',
      8.5,
      '8.05',
    ]);
    expect(of(two, 'text', 'x', 'y').at(-1)).toEqual([17.2, 4.25]);
  });
});

describe('spots', () => {
  it('hold whole numbers that they have room for, and refuse others', () => {
    for (const wrong of [-1, 1.5, 11, NaN]) expect(() => onALine(wrong)).toThrow(RangeError);
    expect(() => dice(10)).toThrow('a die holds whole numbers from 0 to 9, not 10');
    expect([dice(0).dots.length, dice(9).dots.length, onALine(10).dots.length]).toEqual([0, 9, 10]);
  });

  it('a covered half of a domino is a lattice of its own width, and nothing of what lies under it', () => {
    const [seen, covered] = [drawDomino(3, 4, false), drawDomino(3, 4, true)];
    expect([filled(seen), filled(covered)]).toEqual([7, 3]);
    expect(drawDomino(3, 1, true)).toEqual(covered);
    expect(paths(covered)[1]).toMatch(/^M3\.5 0\.25h3\.5M3\.5 0\.5h3\.5.*M3\.5 2\.75h3\.5$/);
  });

  it('fingers are out from the little one at the left on; folded ones lie on the palm, and every one on its hand', () => {
    const out = (count: number): number[][] => {
      const [left = '', right = ''] = drawSpots('fingers', count).body.split('<g transform');
      return [left, right].map((hand) =>
        [...hand.matchAll(/<rect( class="out")? x="([\d.]+)"/g)].flatMap(([, up, x]) =>
          up ? [Math.round(100 * Number(x)) / 100] : [],
        ),
      );
    };
    // Four fingers from the little one, then the thumb; the right hand is the left one turned round.
    expect(out(5)).toEqual([[0.36, 1.35, 2.34, 3.33, 3.75], []]);
    expect(out(6)).toEqual([[0.36, 1.35, 2.34, 3.33, 3.75], [3.75]]);
    expect(out(2)).toEqual([[0.36, 1.35], []]);
    expect(out(9)[1]).toEqual([1.35, 2.34, 3.33, 3.75]);
    for (let n = 0; n <= 10; n++) expect(of(drawSpots('fingers', n), 'rect', 'x')).toHaveLength(10);
  });
});
