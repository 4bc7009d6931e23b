/** Papers by name, upright, in millimetres (ISO 216, ANSI Y14.1). */
export const PAPERS = { A4: { width: 210, height: 297 }, Letter: { width: 215.9, height: 279.4 } } as const;
export type PaperName = keyof typeof PAPERS;

/** What is printed with: colours, or one ink, where a pattern tells two kinds of counters apart. */
export const INKS = ['colour', 'black'] as const;
export type Ink = (typeof INKS)[number];

/** One page as stand-alone SVG whose user unit is one millimetre. */
export interface PrintPage {
  readonly svg: string;
}

/** Millimetres around what is printed, and for the caution at the foot. */
export const MARGIN_MM = 12;
export const FOOT_MM = 20;

export interface Sheet {
  readonly width: number;
  readonly height: number;
}

export const sheetOf = (paper: PaperName, lying = false): Sheet => {
  const { width, height } = PAPERS[paper];
  return lying ? { width: height, height: width } : { width, height };
};

/** A page of its parts. */
export const pageOf = ({ width, height }: Sheet, body: string): PrintPage => ({
  svg: `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}">${body}</svg>`,
});

/** One line of letters, its size in the page's units. Lines are not broken: what may grow long belongs into blocks of words. */
export const label = (
  x: number,
  y: number,
  sizeMm: number,
  content: string,
  anchor: 'start' | 'middle' | 'end' = 'start',
): string =>
  `<text x="${x}" y="${y}" font-size="${sizeMm}" text-anchor="${anchor}" fill="${INK}" font-family="ABeeZee, sans-serif">${escaped(content)}</text>`;

export const INK = '#22303c';

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);
