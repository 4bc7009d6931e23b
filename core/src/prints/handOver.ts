import { factInPrint, LAYOUTS, parseFact, type LayoutName } from '../facts/fact';
import { isFirm } from '../plan/standing';
import type { WorkingNumber } from '../plan/workingNumber';
import { TOLD_WORDS, toldAs, type Reading, type ReadingWord, type ToldWord } from '../reading/reading';
import type { Response } from '../record/response';
import type { Catalogue } from '../words/catalogue';
import { heading, line, small, type Block } from './text';

/** A teacher's override of a reading. */
interface OwnWord {
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
 * this cannot say. Facts with too few answers, or with one alone, are counted, not listed.
 */
export function handOver({
  nickname,
  today,
  number,
  readings,
  overrules,
  support,
  responses,
  dated,
  say,
}: {
  readonly nickname: string;
  readonly today: string;
  readonly number: WorkingNumber;
  readonly readings: readonly Reading[];
  readonly overrules: readonly OwnWord[];
  /** Adjustments for the child, where they were asked for. */
  readonly support: readonly string[];
  readonly responses: readonly Pick<Response, 'shownAt' | 'answerMode' | 'aid' | 'void' | 'kind'>[];
  /** A moment, milliseconds since 1970, as it is to be printed. */
  readonly dated: (atMs: number) => string;
  readonly say: Catalogue;
}): Block[] {
  const told = say.prints.handOver;
  const all = readings.filter((r) => r.responses > 0);
  const settled = all.filter((r) => r.reading !== 'too few answers');
  // What rests on one answer is counted, and told as nothing.
  const asked = settled.filter(isFirm);
  const words = TOLD_WORDS.filter((word) => word !== 'too few answers');
  const of = (word: ToldWord, has: (fact: string) => boolean): string =>
    asked
      .filter((r) => toldAs(r) === word && has(r.fact))
      .map((r) => factInPrint(r.fact))
      .join(',  ') || '–';
  const open = all.length - asked.length;
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
  return [
    heading(told.title(nickname)),
    line(say.plan.workingNumber(number, nickname)),
    small(told.stands(today)),
    ...(support.length === 0 ? [] : [heading(told.support), { block: 'list' as const, items: support }]),
    {
      block: 'table',
      head: [told.seeing, ''],
      rows: words.map((word) => [
        say.readings.told[word],
        seen(
          asked.filter((r) => toldAs(r) === word && r.fact.startsWith('show:')),
          say,
        ) || '–',
      ]),
    },
    ...KINDS.map(({ title, has }): Block => ({
      block: 'table',
      head: [told[title], ''],
      rows: words.map((word) => [say.readings.told[word], of(word, has)]),
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
