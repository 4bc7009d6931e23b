import { factInPrint, LAYOUTS, parseFact, type LayoutName } from '../facts/fact';
import type { WorkingNumber } from '../plan/workingNumber';
import { READING_WORDS, type Reading, type ReadingWord } from '../reading/reading';
import type { Response } from '../record/response';
import type { Catalogue } from '../words/catalogue';
import { heading, line, small, type Block } from './text';

/** A teacher's override of a reading. */
export interface OwnWord {
  readonly fact: string;
  readonly reading: ReadingWord;
  readonly reason: string;
  readonly by: string;
  /** As it is to be printed. */
  readonly date: string;
}

const KINDS = [
  { title: 'adding', has: (fact: string): boolean => /^\d+\+\d+$/.test(fact) },
  { title: 'missing', has: (fact: string): boolean => fact.includes('?') || fact.startsWith('bond:') },
  { title: 'takingAway', has: (fact: string): boolean => /^\d+-\d+$/.test(fact) },
] as const;

/** Numbers in order, runs drawn together: "1 to 4, 7". */
export function runs(numbers: readonly number[], run: (from: number, to: number) => string): string {
  const sorted = [...new Set(numbers)].sort((a, b) => a - b);
  const parts: string[] = [];
  for (let i = 0; i < sorted.length;) {
    let j = i;
    while (sorted[j + 1] === sorted[j]! + 1) j++;
    parts.push(j - i > 1 ? run(sorted[i]!, sorted[j]!) : sorted.slice(i, j + 1).join(', '));
    i = j + 1;
  }
  return parts.join(', ');
}

const seen = (readings: readonly Reading[], say: Catalogue): string =>
  LAYOUTS.flatMap((layout: LayoutName) => {
    const own = readings.filter((r) => r.fact.endsWith(`:${layout}`)).map((r) => parseFact(r.fact).answer);
    return own.length > 0 ? [`${say.layouts[layout]}: ${runs(own, say.prints.handOver.run)}`] : [];
  }).join('; ');

/**
 * What one child's record says, for the next teacher: what is known, worked out, counted, not yet; how it was tested; the teacher's own words; and what a record like
 * this cannot say. Facts with too few answers are counted, not listed.
 */
export function handOver({
  nickname,
  today,
  number,
  readings,
  overrules,
  responses,
  dated,
  say,
}: {
  readonly nickname: string;
  readonly today: string;
  readonly number: WorkingNumber;
  readonly readings: readonly Reading[];
  readonly overrules: readonly OwnWord[];
  readonly responses: readonly Pick<Response, 'shownAt' | 'answerMode' | 'aid' | 'void' | 'kind'>[];
  /** A moment, milliseconds since 1970, as it is to be printed. */
  readonly dated: (atMs: number) => string;
  readonly say: Catalogue;
}): Block[] {
  const told = say.prints.handOver;
  const asked = readings.filter((r) => r.responses > 0);
  const words = READING_WORDS.filter((word) => word !== 'too few answers');
  const of = (word: ReadingWord, has: (fact: string) => boolean): string =>
    asked
      .filter((r) => r.reading === word && has(r.fact))
      .map((r) => factInPrint(r.fact))
      .join(',  ') || '–';
  const open = asked.filter((r) => r.reading === 'too few answers').length;
  const valid = responses.filter((r) => r.void === '');
  const times = valid.map((r) => r.shownAt);
  const days = new Set(times.map((at) => dated(at))).size;
  const modes = [...new Set(valid.map((r) => r.answerMode))].map((mode) =>
    told.mode(mode, valid.filter((r) => r.answerMode === mode).length),
  );
  const tested =
    times.length === 0
      ? told.nothing
      : `${told.tested(valid.length, days, dated(Math.min(...times)), dated(Math.max(...times)), modes)} ${told.helped(valid.filter((r) => r.aid !== 'none').length)}`;
  const working = number.allKnown ? told.allKnown : number.number === null ? told.noNumber : told.number(number.number);
  return [
    heading(told.title(nickname)),
    line(`${told.stands(today)} ${working}`),
    {
      block: 'table',
      head: [told.seeing, ''],
      rows: words.map((word) => [
        say.readings.readings[word],
        seen(
          asked.filter((r) => r.reading === word && r.fact.startsWith('show:')),
          say,
        ) || '–',
      ]),
    },
    ...KINDS.map(({ title, has }): Block => ({
      block: 'table',
      head: [told[title], ''],
      rows: words.map((word) => [say.readings.readings[word], of(word, has)]),
    })),
    line(told.tooFew(open)),
    heading(told.howTested),
    line(tested),
    ...(overrules.length === 0
      ? []
      : [
          heading(told.ownWord),
          {
            block: 'table' as const,
            head: told.ownHead,
            rows: overrules.map((o) => [
              say.fact(o.fact),
              say.readings.readings[o.reading],
              o.reason,
              `${o.by}, ${o.date}`,
            ]),
          },
        ]),
    heading(told.cannot),
    small(told.limits),
  ];
}
