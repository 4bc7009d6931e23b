import { isFirm } from '../plan/standing';
import { parseFact } from '../facts/fact';
import { tooShortToTell } from '../facts/counting';
import { handOver } from '../prints/handOver';
import { workingNumber } from '../plan/workingNumber';
import { evidenceFor } from '../reading/evidence';
import { isEvidence } from '../reading/evidenceOf';
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
          change: whatWouldChange(reading.reason, found.tooShort),
        };
      });
  });
}

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
    for (const { reading, responses, seen, conclusion: so, change } of pages) {
      const judged = responses.filter(isEvidence);
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
      const onlyKnowing = /fits? remembering/.test(so) && !/fits? counting/.test(so);
      const onlyCounting = /fits? counting/.test(so) && !/fits? remembering/.test(so);
      const tipped = /tip it|seen or said/.test(so);
      if (word === 'knows') check(!onlyCounting || tipped, 'known though counted');
      if (word === 'counts') check(!onlyKnowing || tipped, 'counted though known');
      if (word === 'in between')
        check((!onlyKnowing && !onlyCounting) || tipped || so.includes('wrong'), 'between, one-sided');
      // Where time cannot tell, no sentence argues from it.
      if (tooShortToTell(parseFact(reading.fact)))
        check(!/fits? (remembering|counting)/.test(so), 'time on a short fact');
      // Nothing is called counted or worked out by time where counting is too short.
      if (tooShortToTell(parseFact(reading.fact)) && (word === 'counts' || word === 'works out'))
        check(
          judged.some((r) => r.sign !== null),
          'counted without a sign',
        );
      // The needle leans as the word says.
      if (word === 'knows') check(reading.lean > 0, 'needle of knows');
      if (word === 'counts') check(reading.lean < 0, 'needle of counts');
      // What would change it is not what is already said to be.
      check(
        !(word === 'knows' && change.startsWith('Ask') && so.includes('fit remembering')),
        'asks though time tells',
      );
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
