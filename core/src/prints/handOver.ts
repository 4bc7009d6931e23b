import { factInPrint, LAYOUTS, parseFact, type LayoutName } from '../facts/fact';
import type { WorkingNumber } from '../plan/workingNumber';
import { READING_WORDS, type Reading, type ReadingWord } from '../reading/reading';
import type { AnswerMode, Response } from '../record/response';
import { LAYOUT_WORDS } from '../routines/classWords';
import { heading, line, small, type Block } from './text';

/** A teacher's own word on a fact. */
export interface OwnWord {
  readonly fact: string;
  readonly reading: ReadingWord;
  readonly reason: string;
  readonly by: string;
  /** As it is to be printed. */
  readonly date: string;
}

const KINDS = [
  { title: 'Adding', has: (fact: string): boolean => /^\d+\+\d+$/.test(fact) },
  { title: 'Missing part', has: (fact: string): boolean => fact.includes('?') || fact.startsWith('bond:') },
  { title: 'Taking away', has: (fact: string): boolean => /^\d+-\d+$/.test(fact) },
];

const MODE_WORDS: Readonly<Record<AnswerMode, string>> = {
  tap: 'tapped by the child',
  spoken: 'spoken, an adult stopping the clock',
  build: 'built',
  show: 'shown with fingers or a card',
  write: 'written',
  pad: 'pressed on an answer pad',
  voice: 'spoken, heard by the voice key',
};

/** Numbers in order, runs drawn together: "1 to 4, 7". */
export function runs(numbers: readonly number[]): string {
  const sorted = [...new Set(numbers)].sort((a, b) => a - b);
  const parts: string[] = [];
  for (let i = 0; i < sorted.length;) {
    let j = i;
    while (sorted[j + 1] === sorted[j]! + 1) j++;
    parts.push(j - i > 1 ? `${sorted[i]} to ${sorted[j]}` : sorted.slice(i, j + 1).join(', '));
    i = j + 1;
  }
  return parts.join(', ');
}

const some = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

const seen = (readings: readonly Reading[]): string =>
  LAYOUTS.flatMap((layout: LayoutName) => {
    const own = readings.filter((r) => r.fact.endsWith(`:${layout}`)).map((r) => parseFact(r.fact).answer);
    return own.length > 0 ? [`${LAYOUT_WORDS[layout]}: ${runs(own)}`] : [];
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
}: {
  readonly nickname: string;
  readonly today: string;
  readonly number: WorkingNumber;
  readonly readings: readonly Reading[];
  readonly overrules: readonly OwnWord[];
  readonly responses: readonly Pick<Response, 'shownAt' | 'answerMode' | 'aid' | 'void' | 'kind'>[];
  /** A moment, milliseconds since 1970, as it is to be printed. */
  readonly dated: (atMs: number) => string;
}): Block[] {
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
  const modes = [...new Set(valid.map((r) => r.answerMode))].map(
    (mode) => `${MODE_WORDS[mode]} (${valid.filter((r) => r.answerMode === mode).length})`,
  );
  const tested =
    times.length === 0
      ? 'Nothing has been asked yet.'
      : `${some(valid.length, 'answer')} on ${some(days, 'day')}, from ${dated(Math.min(...times))} to ${dated(Math.max(...times))}: ${modes.join(', ')}. ` +
        `${valid.filter((r) => r.aid !== 'none').length} of them had help and were not judged. A fact is called known when it was answered rightly several times, on different days, in the time this child takes to remember rather than to count.`;
  const working = number.allKnown
    ? 'All numbers to ten are fixed.'
    : number.number === null
      ? 'No working number yet: no pairs have been asked.'
      : `Working number: ${number.number}. The pairs below it are known or nearly so.`;
  return [
    heading(`Hand-over: ${nickname}`),
    line(`As the record stands on ${today}. ${working}`),
    {
      block: 'table',
      head: ['Seeing', ''],
      rows: words.map((word) => [
        word,
        seen(asked.filter((r) => r.reading === word && r.fact.startsWith('show:'))) || '–',
      ]),
    },
    ...KINDS.map(({ title, has }): Block => ({
      block: 'table',
      head: [title, ''],
      rows: words.map((word) => [word, of(word, has)]),
    })),
    line(`${some(open, 'more fact was', 'more facts were')} asked too seldom to say.`),
    heading('How it was tested'),
    line(tested),
    ...(overrules.length === 0
      ? []
      : [
          heading('The teacher’s own word'),
          {
            block: 'table' as const,
            head: ['Fact', 'Says', 'Why', 'By'],
            rows: overrules.map((o) => [factInPrint(o.fact), o.reading, o.reason, `${o.by}, ${o.date}`]),
          },
        ]),
    heading('What it cannot say'),
    small(
      'Times tell counting from knowing only where counting takes clearly longer: for “one more” only asking can tell. A child who waits, is tired or answers in another language looks slower than it is. ' +
        'What was not asked is not in it, and what was known may have faded since. It is not a diagnosis and not a label: ask again before you rely on it.',
    ),
  ];
}
