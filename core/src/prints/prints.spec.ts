import fc from '../testing/property';
import { parseFact } from '../facts/fact';
import { waysTotals } from '../routines/ways';
import { USUAL_OPTIONS } from '../routines/options';
import { USUAL_WORDS } from '../routines/classWords';
import { english } from '../words/english/index';
import { cardsOf, drawnPages, PRINT_NAMES, PRINTS, type PrintName, type PrintWish } from './allPrints';
import { sentencesOf } from './cards';
import { CARD_SIZES, cardPages, places } from './grid';
import type { Reading, ReadingWord } from '../reading/reading';
import type { Response } from '../record/response';
import { carpetSheet } from './carpetSheet';
import { classHandOver } from './classHandOver';
import { evening } from './evening';
import { groupSheet } from './groupSheet';
import { handOver, runs } from './handOver';
import { homeSheet } from './homeSheet';
import { MATS } from './mats';
import { PAPERS, sheetOf } from './paper';

const WAYS = { words: USUAL_WORDS, options: USUAL_OPTIONS, say: english };
const WISH: PrintWish = {
  what: 'flash-cards',
  paper: 'A4',
  ink: 'colour',
  size: 'middle',
  cut: true,
  backs: true,
  answers: true,
  layouts: ['frame-fives'],
  numbers: [5],
  mat: 'ten',
};
const count = (text: string, what: RegExp): number => text.match(what)?.length ?? 0;

describe('cards', () => {
  it('show what their backs say, in every layout', () => {
    const cards = cardsOf(
      { ...WISH, layouts: ['five', 'frame-pairs', 'dice', 'mirror', 'scatter', 'beads', 'domino'], numbers: [3, 5, 9] },
      WAYS,
    );
    for (const { name, front, back } of cards) {
      const [n] = name.split('-');
      expect([name, count(front.body, /<circle/g)]).toEqual([name, Number(n)]);
      expect(back.body).toContain(`>${n}</text>`);
    }
    // Nine does not go on a five frame.
    expect(cards).toHaveLength(7 * 3 - 1);
  });

  it('of take-away cross off what is taken', () => {
    const cards = cardsOf({ ...WISH, what: 'crossed-off-cards', numbers: [7, 10] }, WAYS);
    expect(cards).toHaveLength(7 + 10);
    for (const { name, front, back } of cards) {
      const [whole, gone] = name.split('-less-').map(Number) as [number, number];
      const crosses = count(front.body, /m0 -\.84l-\.84 \.84/g);
      expect([name, count(front.body, /<circle/g), crosses]).toEqual([name, whole, gone]);
      expect(back.body.replace(/<[^>]*>/g, '')).toBe(`${whole}−${gone}=${whole - gone}`);
    }
  });

  it('of pairs are as many as the counting rule has ways', () => {
    for (const rule of ['turned-zero', 'turned', 'zero', 'plain'] as const)
      expect(
        cardsOf({ ...WISH, what: 'pair-cards', numbers: [7] }, { ...WAYS, options: { ...USUAL_OPTIONS, rule } }),
      ).toHaveLength(waysTotals(7)[rule]);
  });

  it('tell two kinds apart by colour and form, or by form and pattern alone', () => {
    const [colour, black] = (['colour', 'black'] as const).map(
      (ink) => cardsOf({ ...WISH, ink, what: 'pair-cards' }, WAYS)[2]!.front.body,
    );
    expect(count(colour!, /fill="none" stroke="#8f560f"/g)).toBe(3);
    expect(new Set(black!.match(/#[0-9a-f]{6}/g))).toEqual(new Set(['#22303c']));
    expect(count(black!, /stroke-width=".05"/g)).toBe(9);
  });

  it('with a gap anywhere have it in every place, and each is a fact of its whole', () => {
    const all = sentencesOf(4, 'turned-zero', 'anywhere');
    expect(new Set(all).size).toBe(all.length);
    for (const fact of all) expect(parseFact(fact)).toMatchObject({ whole: 4 });
    expect(all).toEqual(expect.arrayContaining(['3+1', '4-1', '3+?=4', '?+1=4', '4=3+?', '4-?=3']));
    expect(sentencesOf(4, 'turned-zero', 'last').some((fact) => fact.includes('?'))).toBe(false);
  });
});

describe('pages of cards', () => {
  it('hold every card once, inside the paper, and every back behind its front', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(PAPERS) as (keyof typeof PAPERS)[])),
        fc.constantFrom(...(Object.keys(CARD_SIZES) as (keyof typeof CARD_SIZES)[])),
        fc.integer({ min: 1, max: 23 }),
        (paper, size, n) => {
          const cards = Array.from({ length: n }, (_, i) => ({
            name: String(i),
            front: { width: 1, height: 1, body: `<i id="f${i}"/>` },
            back: { width: 1, height: 1, body: `<i id="b${i}"/>` },
          }));
          const pages = cardPages(cards, { paper, size, cut: false, backs: true });
          const { width } = sheetOf(paper);
          const where = (side: string): number[][] =>
            pages.flatMap(({ svg }, page) =>
              [
                ...svg.matchAll(
                  new RegExp(`translate\\(([\\d.]+) ([\\d.]+)\\) scale\\(([\\d.]+)\\)"><i id="${side}(\\d+)"`, 'g'),
                ),
              ].map((m) => {
                const scale = Number(m[3]);
                return [Number(m[4]), Math.floor(page / 2), Number(m[1]) + scale / 2, Number(m[2]) + scale / 2];
              }),
            );
          const [fronts, backs] = [where('f'), where('b')];
          expect(fronts.map(([id]) => id)).toEqual(cards.map((_, i) => i));
          for (const [id, page, x, y] of fronts) {
            const back = backs.find(([other]) => other === id)!;
            expect(back[1]).toBe(page);
            expect(Math.abs(width - back[2]! - x!)).toBeLessThan(0.01);
            expect(Math.abs(back[3]! - y!)).toBeLessThan(0.01);
          }
        },
      ),
    );
  });

  it('leave the foot free', () => {
    for (const paper of ['A4', 'Letter'] as const)
      for (const place of places(sheetOf(paper), 2, 5))
        expect(place.y + place.height).toBeLessThanOrEqual(sheetOf(paper).height - 20 + 1e-9);
  });
});

describe('every print that is drawn', () => {
  /** Of five: by page, circles and pieces of writing. Papers of words about children are made elsewhere. */
  const OF_FIVE: Partial<Record<PrintName, readonly (readonly [circles: number, words: number])[]>> = {
    // One card with five dots; its back with a numeral.
    'flash-cards': [
      [5, 0],
      [0, 1],
    ],
    // Six pairs with nought and turned; each back a sentence of five signs.
    'pair-cards': [
      [6 * 5, 0],
      [0, 6 * 5],
    ],
    // Taken away one to five.
    'crossed-off-cards': [
      [5 * 5, 0],
      [0, 5 * 5],
    ],
    // 5 and 0, 4 and 1, 3 and 2.
    dominoes: [
      [3 * 5, 0],
      [0, 3],
    ],
    // Twelve sentences, six on a page, of four signs and a box; the key with its heading.
    'sentence-cards': [
      [0, 6 * 4],
      [0, 6],
      [0, 6 * 4],
      [0, 6],
      [0, 12 + 1],
    ],
    mats: [[0, 0]],
    // Three sums and three take-aways a page: frames, sentences with places to write, answers.
    'fill-and-write': [
      [15, 26],
      [30, 32],
    ],
    'all-the-ways': [
      [0, 21],
      [0, 15],
    ],
  };
  it.each(PRINT_NAMES)('%s has its pages on both papers, in inks alone, with nothing but the drawing', (what) => {
    for (const paper of ['A4', 'Letter'] as const) {
      const pages = drawnPages({ ...WISH, what, paper }, WAYS);
      expect(pages.map(({ svg }) => [count(svg, /<circle/g), count(svg, /<text/g)])).toEqual(OF_FIVE[what] ?? []);
      const { width, height } = sheetOf(paper);
      for (const { svg } of pages) {
        // Mats lie across.
        const [, ...sides] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg) ?? [];
        expect(sides.map(Number)).toEqual(what === 'mats' ? [height, width] : [width, height]);
        expect(svg).not.toMatch(/currentColor|<script|href|NaN|undefined/);
      }
    }
  });

  it('mats come in the class’s own words', () => {
    for (const mat of MATS) {
      const [page] = drawnPages({ ...WISH, what: 'mats', mat }, { ...WAYS, words: { ...USUAL_WORDS, part: 'addend' } });
      expect(page?.svg).not.toContain('>part<');
      if (mat === 'part-whole') expect(count(page?.svg ?? '', />addend</g)).toBe(2);
    }
  });

  it('what is written on them is text, whatever stands in it', () => {
    const [page] = drawnPages(
      { ...WISH, what: 'mats', mat: 'part-whole' },
      { ...WAYS, words: { ...USUAL_WORDS, whole: '<b>"A" & B</b>' as 'whole' } },
    );
    expect(page?.svg).toContain('>&lt;b&gt;&quot;A&quot; &amp; B&lt;/b&gt;<');
  });

  it('those that use objects or flashes say so', () => {
    expect([PRINTS.mats.caution, PRINTS['home-sheet'].caution, PRINTS['flash-cards'].caution]).toEqual([
      'objects',
      'objects',
      'flash',
    ]);
  });
});

describe('papers of words', () => {
  it('the home sheet plays with the number that it is for', () => {
    const sheet = (number: number): string =>
      JSON.stringify(
        homeSheet({
          nickname: 'Odo',
          number,
          words: USUAL_WORDS,
          direction: 'rows',
          ink: 'colour',
          say: english,
        }),
      );
    expect(sheet(10)).toContain('Odo plays with 10');
    expect(sheet(7)).toContain('4 and 3 makes 7');
  });

  it('the hand-over sorts what was asked by word and kind, counts the rest, and tells how it was tested', () => {
    const reading = (fact: string, word: ReadingWord, responses = 5) =>
      ({ fact, reading: word, responses, days: Math.min(2, responses) }) as Reading;
    const answer = (day: number, more: object = {}) =>
      ({
        shownAt: Date.UTC(2026, 10, day),
        answerMode: 'tap',
        aid: 'none',
        void: '',
        kind: 'add',
        ...more,
      }) as Response;
    const blocks = handOver({
      nickname: 'Odo',
      today: '25 November 2026',
      number: { number: 6, allKnown: false, pairs: new Map() },
      readings: [
        reading('3+2', 'knows'),
        reading('4+2', 'counts'),
        reading('6-2', 'not yet'),
        reading('2+?=5', 'works out'),
        reading('5+1', 'too few answers', 1),
        // One answer is no word for the next teacher.
        reading('1+6', 'knows', 1),
        reading('9+1', 'too few answers', 0),
        ...[1, 2, 3, 5].map((n) => reading(`show:${n}:five`, 'knows')),
      ],
      support: [],
      overrules: [{ fact: '4+2', reading: 'knows', reason: 'told me how', by: 'Mate', date: '24 November' }],
      responses: [
        answer(3),
        answer(3, { aid: 'objects' }),
        answer(9, { answerMode: 'pad' }),
        answer(10, { void: 'noise' }),
      ],
      dated: (at) => `day ${new Date(at).getUTCDate()}`,
      say: english,
    });
    const rows = blocks.flatMap((b) =>
      b.block === 'table'
        ? b.rows.map((row) => [b.head[0], ...row.map((cell) => (typeof cell === 'string' ? cell : '□'))].join(' | '))
        : [],
    );
    expect(rows).toEqual(
      expect.arrayContaining([
        'Seeing | knows | five frame: 1 to 3, 5',
        'Adding | knows | 3 + 2',
        'Adding | counts | 4 + 2',
        'Missing part | works out | 2 + ? = 5',
        'Taking away | not yet | 6 − 2',
        'Fact | 4 + 2 | knows | told me how | Mate, 24 November',
      ]),
    );
    const words = blocks.flatMap((b) => ('text' in b ? [b.text] : [])).join('\n');
    expect(words).toContain('two more facts have too few answers to say.');
    expect(words).toContain(
      '3 answers on 2 days, from day 3 to day 9: tapped by the child (2), pressed on an answer pad (1). 1 of them was given with help',
    );
    expect(words).toContain('Odo is working on six.');
  });

  it('of carpet time: what opens it, each child’s own questions by how they are put, and a close', () => {
    const asks = [
      { fact: 'show:7:frame-fives', form: 'symbols' },
      { fact: '2+3', form: 'picture' },
      { fact: '2+3', form: 'remembered' },
      { fact: '2+3', form: 'symbols' },
    ] as const;
    const blocks = carpetSheet({
      code: 'QRST23',
      className: 'Curlew',
      today: '25 November 2026',
      session: { needs: [{ need: 'pairs', whole: 5 }], opener: 'flash-and-say', minutes: 6 },
      children: [
        { nickname: 'Odo', asks, still: false },
        { nickname: 'Ivo', asks: asks.slice(0, 3), still: true },
      ],
      words: USUAL_WORDS,
      say: english,
    });
    const text = JSON.stringify(blocks);
    for (const told of [
      'First, everybody together',
      'Flash and say',
      'Pairs of five, about six minutes',
      'Last, two minutes',
    ])
      expect(text).toContain(told);
    const [table] = blocks.filter((block) => block.block === 'table');
    expect(table?.head).toEqual(['Odo', '', 'Ivo', '']);
    // What to do is four points in large letters, for somebody who holds the page.
    expect(blocks.filter((block) => block.block === 'list').map(({ items, large }) => [items.length, large])).toEqual([
      [4, true],
    ]);
    // Nothing is covered for a child for whom nothing is flashed.
    expect(table?.rows.map((row) => [row[0], row[2]])).toEqual([
      ['7 dots · C', '7 dots · V'],
      ['2 + 3 · V', '2 + 3 · V'],
      ['2 + 3 · C', '2 + 3 · V'],
      ['2 + 3', ''],
    ]);
  });

  it('carpet time for more than four children is two tables side by side as the page has room, without an opener only its own part', () => {
    const blocks = carpetSheet({
      code: 'QRST23',
      className: 'Curlew',
      today: '25 November 2026',
      session: { needs: [{ need: 'pairs', whole: 5 }], opener: null, minutes: 6 },
      children: ['Odo', 'Ivo', 'Zadie', 'Bram', 'Kesi'].map((nickname) => ({
        nickname,
        asks: [{ fact: '2+3', form: 'symbols' as const }],
        still: false,
      })),
      words: USUAL_WORDS,
      say: english,
    });
    const tables = blocks.filter((block) => block.block === 'table');
    expect(tables.map(({ head }) => head)).toEqual([
      ['Odo', '', 'Ivo', '', 'Zadie', '', 'Bram', ''],
      ['Kesi', ''],
    ]);
    // Four share the width of the page with their places to write; one alone has no more than it can read.
    const [place] = [tables[0]!.rows[0]![1] as { width: number }];
    const [four, one] = tables.map(({ widthsMm }) => widthsMm!);
    expect(four).toEqual(Array.from({ length: 4 }, () => [248 / 4 - place.width - 2 * 5.7, place.width]).flat());
    expect(one).toEqual([60, place.width]);
    expect(JSON.stringify(blocks)).not.toMatch(/First, everybody together|Last, two minutes/);
  });

  it('adjustments, and what a teacher wrote, stand on the papers where they are given, and nothing stands for them elsewhere', () => {
    const place = { number: 6, allKnown: false, help: 'picture' } as const;
    const child = {
      nickname: 'Odo',
      place,
      help: place.help,
      need: { need: 'pairs', whole: 6 } as const,
      readings: [],
    };
    const own = { words: USUAL_WORDS, say: english, today: '25 November' };
    const papers = (support: readonly string[], door: string): readonly string[] => [
      JSON.stringify(evening({ ...child, ...own, door, support })),
      JSON.stringify(
        handOver({
          nickname: 'Odo',
          number: { number: 6, allKnown: false, pairs: new Map() },
          readings: [],
          overrules: [],
          responses: [],
          dated: String,
          support,
          say: english,
          today: '25 November',
        }),
      ),
      JSON.stringify(
        classHandOver({
          ...own,
          className: 'Curlew',
          children: [
            { ...child, support, lastAsked: '24 November' },
            { ...child, nickname: 'Ivo', support: [], lastAsked: null },
          ],
        }),
      ),
    ];
    const heading = /What we do differently|Adjustments/;
    for (const text of papers(['pictures stay', 'points'], 'Odo likes shells.')) {
      expect(text).toMatch(/pictures stay(; |",")points/);
      expect(text).toMatch(heading);
    }
    for (const text of papers([], '')) expect(text).not.toMatch(heading);
    const [withDoor, withoutDoor] = [papers([], 'Odo likes shells.')[0]!, papers([], '')[0]!];
    expect(withDoor).toContain('Odo likes shells.');
    expect(withoutDoor).not.toContain('""');
    // Of the class: who is helped otherwise by name, and nobody else; when each was asked last.
    const [, , ofClass] = papers(['points'], '');
    expect(ofClass).toContain('"items":["Odo: points"]');
    expect(ofClass).toMatch(/"Odo",.*"24 November"\].*"Ivo",.*"never"\]/i);
  });

  it('a group sheet has a row for every question and a place for every child', () => {
    const blocks = groupSheet({
      code: 'QRST23',
      className: 'Curlew',
      today: '25 November',
      nicknames: ['Odo', 'Ivo'],
      facts: ['3+4', 'show:7:five'],
      say: english,
    });
    const table = blocks.find((b) => b.block === 'table');
    expect(table?.head).toEqual(['', 'Odo', 'Ivo']);
    expect(table?.rows.map((row) => [row[0], row.length])).toEqual([
      ['3 + 4', 3],
      ['7 on a five frame', 3],
    ]);
  });

  it('numbers in a row are drawn together', () => {
    expect(runs([3, 1, 2, 7, 4, 9, 8], english.prints.handOver.run)).toBe('1 to 4, 7 to 9');
    expect(runs([1, 2, 5], english.prints.handOver.run)).toBe('1, 2, 5');
  });
});
