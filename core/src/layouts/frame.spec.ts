import fc from '../testing/property';
import { seeded } from '../random/random';
import { toSvg } from './drawn';
import { drawCover, drawDots } from './framesDrawn';
import { holdsRow, scatter } from './scatter';
import { capacity, DoesNotFit, frame, FRAME_LAYOUTS } from './frame';
import { drawNumeral } from './symbolsDrawn';

const anyFrame = fc
  .record({
    layout: fc.constantFrom(...FRAME_LAYOUTS),
    direction: fc.constantFrom('rows' as const, 'columns' as const),
    share: fc.nat(10),
  })
  .map((f) => ({ ...f, count: Math.min(f.share, capacity(f.layout)) }));

describe('frames', () => {
  it('holds exactly its dots, one a box, all inside', () => {
    fc.assert(
      fc.property(anyFrame, ({ layout, count, direction }) => {
        const picture = frame(layout, count, direction);
        expect(picture.dots).toHaveLength(count);
        expect(picture.boxes).toHaveLength(capacity(layout));
        expect(new Set(picture.boxes.map((b) => `${b.x},${b.y}`)).size).toBe(capacity(layout));
        for (const { cx, cy, r } of picture.dots) {
          expect(cx - r).toBeGreaterThan(0);
          expect(cy - r).toBeGreaterThan(0);
          expect(cx + r).toBeLessThan(picture.width);
          expect(cy + r).toBeLessThan(picture.height);
        }
      }),
    );
  });

  it('starts in the top left and fills the row of five before the next', () => {
    const { dots, boxes } = frame('frame-fives', 7, 'rows');
    expect(boxes[0]).toEqual({ x: 0, y: 0 });
    expect(dots.map((d) => [d.cx, d.cy])).toEqual([
      [0.5, 0.5],
      [1.5, 0.5],
      [2.5, 0.5],
      [3.5, 0.5],
      [4.5, 0.5],
      [0.5, 1.5],
      [1.5, 1.5],
    ]);
  });

  it('fills pair after pair by pairs', () => {
    expect(frame('frame-pairs', 3, 'rows').dots.map((d) => [d.cx, d.cy])).toEqual([
      [0.5, 0.5],
      [0.5, 1.5],
      [1.5, 0.5],
    ]);
  });

  it('stands upright as the mirror image along the diagonal', () => {
    fc.assert(
      fc.property(anyFrame, ({ layout, count }) => {
        const lying = frame(layout, count, 'rows');
        const upright = frame(layout, count, 'columns');
        expect(upright.dots.map((d) => [d.cy, d.cx])).toEqual(lying.dots.map((d) => [d.cx, d.cy]));
        expect([upright.height, upright.width]).toEqual([lying.width, lying.height]);
      }),
    );
  });

  it.each([-1, 1.5, 11, NaN])('refuses %p dots', (count) => {
    expect(() => frame('frame-fives', count, 'rows')).toThrow(DoesNotFit);
    expect(() => frame('five', 6, 'rows')).toThrow(/0 to 5/);
  });
});

describe('pictures', () => {
  it('draws as many circles as dots, and a name that gives nothing away', () => {
    const svg = toSvg(drawDots(frame('frame-fives', 8, 'rows')), 'a frame');
    expect(svg.match(/<circle/g)).toHaveLength(8);
    expect(svg).not.toContain('8"');
  });

  it('covers every number alike', () => {
    expect(drawCover(frame('frame-fives', 0, 'rows'))).toEqual(drawCover(frame('frame-fives', 9, 'rows')));
  });

  it('writes a numeral', () => {
    expect(drawNumeral(7).body).toContain('>7</text>');
  });
});

describe('scattered dots', () => {
  it('are as many as asked, inside the field, and never touch', () => {
    fc.assert(
      fc.property(fc.integer(), fc.nat(10), (seed, count) => {
        const { dots, width, height } = scatter(seeded(seed), count);
        expect(dots).toHaveLength(count);
        dots.forEach((a, i) => {
          expect(Math.min(a.cx - a.r, a.cy - a.r, width - a.cx - a.r, height - a.cy - a.r)).toBeGreaterThanOrEqual(0);
          for (const b of dots.slice(i + 1))
            expect(Math.hypot(a.cx - b.cx, a.cy - b.cy)).toBeGreaterThan(a.r + b.r + 0.1);
        });
        expect(holdsRow(dots)).toBe(false);
      }),
    );
  });

  it('give the number away neither by their ink nor by the room they take', () => {
    // Of 200 shows of four and 200 of eight: a rule "more ink (or more room) is eight" is right in clearly less than all of them.
    const ink = (n: number, seed: number): number =>
      scatter(seeded(seed), n).dots.reduce((sum, d) => sum + d.r ** 2, 0);
    const room = (n: number, seed: number): number => {
      const { dots } = scatter(seeded(seed), n);
      return (
        (Math.max(...dots.map((d) => d.cx)) - Math.min(...dots.map((d) => d.cx))) *
        (Math.max(...dots.map((d) => d.cy)) - Math.min(...dots.map((d) => d.cy)))
      );
    };
    for (const [measure, most] of [
      [ink, 0.8],
      [room, 0.85],
    ] as const) {
      let right = 0;
      for (let seed = 0; seed < 200; seed++) right += Number(measure(8, seed + 1000) > measure(4, seed));
      expect(right / 200).toBeLessThan(most);
    }
  });

  it('a row as in a frame is seen for what it is', () => {
    expect(holdsRow(frame('five', 4, 'rows').dots)).toBe(true);
    expect(holdsRow(frame('five', 3, 'rows').dots)).toBe(false);
  });

  it('refuse more than the field holds', () => expect(() => scatter(seeded(1), 11)).toThrow(RangeError));
});
