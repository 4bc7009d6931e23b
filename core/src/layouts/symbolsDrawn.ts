import { stroke, text, type Drawn } from './drawn';

/** A numeral alone, for copying. */
export const drawNumeral = (n: number): Drawn => ({ width: 5, height: 2, body: text(2.5, 1.62, 1.8, String(n)) });

/** Symbols in a line, with a box for "?": `3 + ? = 8`. */
export function drawSymbols(line: string): Drawn {
  const parts = line.split(' ');
  const drawn = parts.map((part, i) => {
    const x = (i + 0.5) * 1.3;
    if (part === '?')
      return `<rect x="${x - 0.5}" y=".5" width="1" height="1.1" rx=".08" fill="none" stroke="currentColor" stroke-width="0.06"/>`;
    return text(x, 1.5, part.length > 1 ? 1.15 : 1.3, part);
  });
  return { width: parts.length * 1.3, height: 2.1, body: drawn.join('') };
}

/** The part-whole picture: the whole above, its two parts below; null = to be found. */
export function drawPartWhole(whole: number | null, first: number | null, second: number | null): Drawn {
  const spot = (x: number, y: number, n: number | null): string =>
    `<circle cx="${x}" cy="${y}" r=".85" fill="none" stroke="currentColor" stroke-width="0.06"/>${n === null ? '' : text(x, y + 0.38, 1.1, String(n))}`;
  return {
    width: 6,
    height: 4.9,
    body:
      stroke('M2.5 1.7L1.45 3.05M3.5 1.7L4.55 3.05', 0.06) +
      spot(3, 1, whole) +
      spot(1, 3.8, first) +
      spot(5, 3.8, second),
  };
}

/** The ways found so far: one bar of the whole each, cut where the pair is cut; an open bar for a way still to come, and a line round those that light up. */
export function drawWays(
  whole: number,
  found: readonly (readonly [number, number] | null)[],
  lit: readonly (readonly [number, number])[] = [],
): Drawn {
  const unit = 6 / Math.max(1, whole);
  const columns = found.length > 7 ? 2 : 1;
  const rows = Math.max(1, Math.ceil(found.length / columns));
  const body = found.map((pair, i) => {
    const [x, y] = [Math.floor(i / rows) * 9.4, (i % rows) * 1.15];
    if (pair === null)
      return `<rect x="${x + 1.2}" y="${y + 0.15}" width="6" height=".7" rx=".1" fill="none" stroke="currentColor" stroke-width=".04" stroke-dasharray=".16 .16"/>`;
    const [first, second] = pair;
    const part = (from: number, length: number, open: boolean): string =>
      length === 0
        ? ''
        : `<rect x="${x + 1.2 + from * unit}" y="${y + 0.15}" width="${length * unit}" height=".7" rx=".1" fill="${open ? 'none' : 'currentColor'}" stroke="currentColor" stroke-width=".06"/>`;
    const shines = lit.some(([a, b]) => a === first && b === second);
    return (
      (shines
        ? `<rect class="lit" x="${x + 0.05}" y="${y}" width="8.3" height="1" rx=".3" fill="none" stroke="currentColor" stroke-width=".1"/>`
        : '') +
      text(x + 0.6, y + 0.8, 0.8, String(first)) +
      part(0, first, false) +
      part(first, second, true) +
      text(x + 7.8, y + 0.8, 0.8, String(second))
    );
  });
  return { width: columns * 9.4 - 0.9, height: rows * 1.15, body: body.join('') };
}
