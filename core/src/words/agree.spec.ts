import { isFirm } from '../plan/standing';
import { SIGNS } from '../record/response';
import { heededSign } from '../reading/likelihood';
import { handOver } from '../prints/handOver';
import { workingNumber } from '../plan/workingNumber';
import { evidenceFor } from '../reading/evidence';
import { isAnswer } from '../reading/evidenceOf';
import { whatTells, type Telling } from '../reading/whatTells';
import { judgeClass } from '../reading/judgeChild';
import { DEFAULT_READING_SETTINGS, toldAs, type Reading, type ToldWord } from '../reading/reading';
import type { Response } from '../record/response';
import { CONDITIONS } from '../rehearsal/child';
import { simulateClass } from '../rehearsal/class';
import { HARBOUR_CHILDREN } from '../rehearsal/names';
import { english } from './english/index';

/** What a page says of one fact of one child: the word, and the sentences around it. */
interface Said {
  readonly reading: Reading;
  readonly responses: readonly Response[];
  readonly seen: string;
  readonly conclusion: string;
  readonly change: string;
  readonly tells: Telling;
  readonly timeTells: boolean;
}

const { told } = english.readings;
const { evidence, conclusion, whatWouldChange } = english.pages.evidence;

let made = 0;
function pagesOf(condition: (typeof CONDITIONS)[number], seed: number): Said[] {
  const { responses } = simulateClass({
    seed,
    names: HARBOUR_CHILDREN.slice(0, 3),
    weeks: 6,
    condition,
    until: Date.parse('2026-11-27T12:00:00Z'),
    makeId: (at) => `${at}-${made++}`,
  });
  return judgeClass(responses, { settings: DEFAULT_READING_SETTINGS }).flatMap(({ estimate, readings }) => {
    const own = responses.filter((r) => r.child === estimate.child);
    return readings
      .filter((r) => r.responses > 0)
      .map((reading): Said => {
        const answers = own.filter((r) => r.fact === reading.fact);
        const found = evidenceFor(reading.fact, answers, estimate, DEFAULT_READING_SETTINGS.timeZone);
        return {
          reading,
          responses: answers,
          seen: evidence(found, estimate.child),
          conclusion: conclusion(found, reading),
          change: whatWouldChange(reading.reason, reading.fact, found.timeTells),
          tells: whatTells(found, reading),
          timeTells: found.timeTells,
        };
      });
  });
}

/** By what was decided to tell, how its sentence is known. */
const REASONS: readonly (readonly [Telling, RegExp])[] = [
  ['similar', /similar facts/],
  ['times', /^(?!.*similar facts).*(fits? (knowing|counting)\b|clearly slower)/],
  ['signs', /, marked /],
  ['mistakes', /answers were wrong\.|wrong answers/],
  ['few', /too few answers|one day is not enough/],
  ['mixed', /Some answers were right and some were wrong|No right answer has a time/],
  ['short', /time cannot tell/],
];

/** Of these in every run: known and counted plainly, by an adult's ear, with what two adults and two devices do. */
const SHORT: readonly string[] = ['plain', 'stops at a number', 'spoken', 'two adults'];

describe.each(
  CONDITIONS.map(
    (condition, i) => [`${condition}${SHORT.includes(condition) ? '' : ' @long'}`, condition, i + 1] as const,
  ),
)('in a class that is %s', (_, condition, i) => {
  let pages: Said[];
  beforeAll(() => (pages = pagesOf(condition, 40 + i)));

  it('the sentence, the word and the needle of every fact say the same', () => {
    expect(pages.length).toBeGreaterThan(90);
    // One expectation for all: there are a hundred thousand of them.
    const amiss: string[] = [];
    for (const { reading, responses, seen, conclusion: so, change, tells, timeTells } of pages) {
      const judged = responses.filter(isAnswer);
      const at = `${reading.child} ${reading.fact}: ${reading.reading}. ${seen} ${so} ${change}`;
      const check = (holds: boolean, what: string): void => {
        if (!holds) amiss.push(`${what}: ${at}`);
      };
      const word = toldAs(reading);
      // Seen: as many answers as the reading was made from.
      check(reading.responses === judged.length, 'answers');
      // Concluded: the word of the reading and no other.
      const named = (Object.keys(told) as ToldWord[]).filter((one) => so.includes(`“${told[one]}”`));
      check(word === 'too few answers' ? named.length === 0 : named.join() === word, 'word');
      // Why: what the times fit is not the opposite of the word, unless it is said what tips it.
      const onlyKnowing = /fits? knowing/.test(so) && !/fits? counting/.test(so);
      const onlyCounting = /fits? counting/.test(so) && !/fits? knowing/.test(so);
      const isTipped = so.includes('point the other way');
      if (word === 'knows') check(!onlyCounting || isTipped, 'known though counted');
      if (word === 'counts') check(!onlyKnowing || isTipped, 'counted though known');
      if (word === 'in between') check((!onlyKnowing && !onlyCounting) || isTipped, 'between, one-sided');
      // Exactly one reason, of what was decided to tell.
      const reasons = REASONS.filter(([, pattern]) => pattern.test(so)).map(([what]) => what);
      check(
        reasons.length === 1 && (reasons[0] === tells || tells === 'mixed'),
        `one reason, ${tells}: ${reasons.join()}`,
      );
      // Where time cannot tell, no sentence argues from it, and nothing is called counted or worked out by it.
      if (!timeTells) {
        check(!/fits? (knowing|counting)|clearly slower/.test(so), 'time on a short fact');
        if (word === 'counts' || word === 'works out')
          check(
            judged.some((r) => r.sign !== null),
            'counted without a sign',
          );
      }
      // All signs are told.
      for (const sign of SIGNS) {
        const n = judged.filter((r) => heededSign(r) === sign).length;
        check(n > 0 === seen.includes(`“${english.record.signs[sign]}”`), `sign ${sign}`);
      }
      // One answer is never said to be more.
      if (reading.responses === 1)
        check(!/All |Both |fairly| sure$/.test(`${seen} ${english.readings.sureness(reading)}`), 'one answer');
      // The needle leans as the word says.
      if (word === 'knows') check(reading.lean > 0, 'needle of knows');
      if (word === 'counts') check(reading.lean < 0, 'needle of counts');
      // What would change it is not what is already said to be.
      check(!(word === 'knows' && change.startsWith('Ask') && so.includes('fit knowing')), 'asks though time tells');
    }
    expect(amiss).toEqual([]);
  });

  it('the hand-over lists every fact that rests on more than one answer under its own word, and only there', () => {
    for (const child of new Set(pages.map((p) => p.reading.child))) {
      const readings = pages.filter((p) => p.reading.child === child).map((p) => p.reading);
      const blocks = handOver({
        nickname: child,
        today: 'today',
        number: workingNumber(readings),
        readings,
        overrules: [],
        support: [],
        responses: [],
        dated: String,
        say: english,
      });
      const listed = blocks.flatMap((block) => (block.block === 'table' ? block.rows : []));
      const sums = readings.filter((r) => /^\d+\+\d+$/.test(r.fact));
      const under = sums.map(({ fact }) => [
        fact,
        ...listed
          .filter(([, facts]) => typeof facts === 'string' && facts.split(',  ').includes(english.fact(fact)))
          .map(([word]) => word),
      ]);
      const isTold = (r: Reading): boolean => r.reading !== 'too few answers' && isFirm(r);
      expect(under).toEqual(sums.map((r) => (isTold(r) ? [r.fact, told[toldAs(r)]] : [r.fact])));
    }
  });
});
