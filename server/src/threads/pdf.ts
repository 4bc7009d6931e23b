import { sheetOf, type Block, type PaperName, type PrintPage } from '@vane/core';
import { createRequire } from 'node:module';
import pdfmake from 'pdfmake';
import type { Content, StyleDictionary, TDocumentDefinitions } from 'pdfmake/interfaces';

/** A print with its words: drawn pages, or blocks of words to be broken into pages. */
export interface Print {
  readonly title: string;
  readonly paper: PaperName;
  readonly lying: boolean;
  readonly body: { readonly pages: readonly PrintPage[] } | { readonly blocks: readonly Block[] };
  /** The cautions at the foot of every page. */
  readonly foot: string;
  /** Where "Before you use this with children" stands. */
  readonly care: { readonly words: string; readonly link: string };
}

const POINTS_PER_MM = 72 / 25.4;
const pt = (mm: number): number => mm * POINTS_PER_MM;

const require = createRequire(import.meta.url);
const file = (family: string, subset: string): string =>
  require.resolve(`@fontsource/${family}/files/${family}-${subset}-400-normal.woff`);

/** ABeeZee for everything; names in letters that it lacks stand in Andika, by the blocks of Unicode that its files have. */
const FACES = [
  { name: 'ABeeZee', file: file('abeezee', 'latin'), letters: /[\u0020-\u00ff\u2000-\u206f\u2190-\u22ff]/u },
  { name: 'AndikaExt', file: file('andika', 'latin-ext'), letters: /[\u0100-\u02ba\u1e00-\u1e9f]/u },
  { name: 'AndikaVietnamese', file: file('andika', 'vietnamese'), letters: /[\u1ea0-\u1ef9]/u },
  { name: 'AndikaCyrillic', file: file('andika', 'cyrillic'), letters: /[\u0400-\u045f\u0490\u0491\u04b0\u04b1]/u },
  { name: 'AndikaCyrillicExt', file: file('andika', 'cyrillic-ext'), letters: /[\u0460-\u052f]/u },
] as const;

/** What stands for a letter that no face has: a line to write it on by hand. */
const BY_HAND = '__';

/** The same text, cut where the face changes. */
export function inFaces(text: string): { text: string; font: string }[] {
  const runs: { text: string; font: string }[] = [];
  for (const letter of text.normalize('NFC')) {
    const face = FACES.find(({ letters }) => letters.test(letter));
    const font = (face ?? FACES[0]).name;
    const printed = face || letter < ' ' ? letter : BY_HAND;
    const last = runs[runs.length - 1];
    if (last?.font === font) last.text += printed;
    else runs.push({ text: printed, font });
  }
  return runs;
}

const STYLES: StyleDictionary = {
  heading: { fontSize: 17, margin: [0, 12, 0, 5] },
  text: { fontSize: 11.5, lineHeight: 1.25, margin: [0, 0, 0, 6] },
  large: { fontSize: 14, lineHeight: 1.08, margin: [0, 0, 0, 1] },
  small: { fontSize: 9.5, lineHeight: 1.2, margin: [0, 4, 0, 2] },
};

function contentOf(block: Block): Content {
  switch (block.block) {
    case 'heading':
    case 'text':
    case 'small':
    case 'large':
      return { text: inFaces(block.text), style: block.block };
    case 'list':
      return { ul: block.items.map((item) => ({ text: inFaces(item), style: block.large ? 'large' : 'text' })) };
    case 'drawing': {
      const { drawn, widthMm } = block;
      return { svg: svgOf(drawn), width: pt(widthMm), margin: [0, 6, 0, 6], alignment: 'center' };
    }
    case 'table': {
      const cell = (one: (typeof block.rows)[number][number]): Content =>
        typeof one === 'string'
          ? { text: inFaces(one), fontSize: block.large ? 14 : 10.5 }
          : { svg: svgOf(one), width: pt(one.width) };
      const [first] = block.rows;
      const many = (first?.length ?? 0) > 2;
      return {
        margin: [0, 4, 0, 8],
        layout: 'lightHorizontalLines',
        table: {
          headerRows: 1,
          dontBreakRows: true,
          widths: block.widthsMm
            ? block.widthsMm.map(pt)
            : many
              ? (first ?? []).map((_, i) => (i === 0 ? 'auto' : '*'))
              : [pt(26), '*'],
          body: [
            block.head.map((text) => ({ text: inFaces(text), fontSize: block.large ? 14 : 11.5 })),
            ...block.rows.map((row) => row.map(cell)),
          ],
        },
      };
    }
  }
}

const svgOf = ({ width, height, body }: { width: number; height: number; body: string }): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-0.1 -0.1 ${width + 0.2} ${height + 0.2}">${body}</svg>`;

/** The print as a PDF: letters as letters, in fonts that are embedded. */
export async function pdfOf({ title, paper, lying, body, foot, care }: Print): Promise<Uint8Array> {
  const sheet = sheetOf(paper, lying);
  const [width, height] = [pt(sheet.width), pt(sheet.height)];
  const content: Content[] =
    'blocks' in body
      ? body.blocks.map(contentOf)
      : body.pages.map(({ svg }, i): Content => ({
          svg,
          width,
          height,
          absolutePosition: { x: 0, y: 0 },
          ...(i > 0 ? { pageBreak: 'before' as const } : {}),
        }));
  const document: TDocumentDefinitions = {
    pageSize: { width, height },
    pageMargins: [pt(15), pt(12), pt(15), pt(13)],
    info: { title, creator: 'Vane', producer: 'Vane' },
    defaultStyle: { font: 'ABeeZee', color: '#22303c' },
    styles: STYLES,
    content,
    footer: () => ({
      margin: [pt(15), 0, pt(15), 0],
      fontSize: 7.5,
      text: [
        ...(foot === '' ? [] : [...inFaces(foot), { text: '  ' }]),
        ...inFaces(care.words).map((part) => ({ ...part, link: care.link, decoration: 'underline' as const })),
      ],
    }),
  };
  pdfmake.setFonts(
    Object.fromEntries(
      FACES.map(({ name, file: normal }) => [name, { normal, bold: normal, italics: normal, bolditalics: normal }]),
    ),
  );
  // Nothing is fetched, and of this machine only the fonts are read.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((path) => FACES.some((face) => face.file === path));
  return pdfmake.createPdf(document).getBuffer();
}
