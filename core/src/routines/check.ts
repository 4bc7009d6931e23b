import { countingSteps } from '../facts/counting';
import { parseFact } from '../facts/fact';
import { shuffled, type Random } from '../random/random';
import { oneWhole, pairs, sum } from './draws';
import { chain, makeAsk, talk, type Answered, type Ask, type Routine, type RoutineWish } from './routine';
import { pairTexts, parsePair, sortWays, waysOf, type Pair } from './ways';

/** A number is passed at three pairs that come, and failed at two that do not. */
const PASSED = 3;
const FAILED = 2;
/** Enough for under four minutes at about eight seconds a question. */
const MOST_ASKED = 24;
const SMALLEST_WHOLE = 2;
const LARGEST_WHOLE = 10;
/** Until a child's own times are measured: the usual rule of thumb, in seconds. */
const QUICK_SECONDS = 3;
/** Fetching a known fact takes about half as long again as the hand; counting begins after about this many seconds (docs/model.md, "Time"). */
const RETRIEVE_OVER_HAND = 1.5;
const START_SECONDS = 0.55;

/** The time at which knowing and counting are equally likely, roughly: the geometric middle of what each takes this child, in seconds. */
export function quickSeconds(fact: string, times: RoutineWish['times']): number {
  if (times === null) return QUICK_SECONDS;
  const known = RETRIEVE_OVER_HAND * times.handSeconds;
  const counted = times.handSeconds + START_SECONDS + times.paceSeconds * countingSteps(parseFact(fact)).fromGreater;
  return counted <= known ? known : Math.sqrt(known * counted);
}

/** Whether an answer came at once: right, and quick for this child, unless the adult saw how it came about. */
function cameAtOnce({ ask, right, responseMs, sign }: Answered, times: RoutineWish['times']): boolean {
  if (!right || ask.fact === null) return false;
  if (sign !== null) return sign === 'knew';
  return responseMs === null || responseMs / 1000 <= quickSeconds(ask.fact, times);
}

interface CheckState {
  /** The largest number all of whose tried pairs came; the one below the working number. */
  readonly known: number;
  /** The number to try next; null when the check is over. */
  readonly next: number | null;
}

/**
 * Where a check stands. It begins at the claim, goes up by one and then by two, or down by two, until it has passed one number and failed another, and then closes in between them: a
 * child who knows the pairs of a number knows those of smaller numbers.
 */
export function checkState(claim: number, soFar: readonly Answered[], times: RoutineWish['times']): CheckState {
  const came = new Map<number, { yes: number; no: number }>();
  for (const answered of soFar) {
    const whole = Number(/^bond:(\d+):/.exec(answered.ask.fact ?? '')?.[1]);
    if (!whole) continue;
    const tally = came.get(whole) ?? { yes: 0, no: 0 };
    if (cameAtOnce(answered, times)) tally.yes++;
    else tally.no++;
    came.set(whole, tally);
  }
  const tried = [...came];
  const failed = Math.min(LARGEST_WHOLE + 1, ...tried.filter(([, { no }]) => no >= FAILED).map(([n]) => n));
  const passed = Math.max(
    SMALLEST_WHOLE - 1,
    ...tried.filter(([n, { yes }]) => n < failed && yes >= needed(n)).map(([n]) => n),
  );
  if (failed - passed <= 1 || soFar.length >= MOST_ASKED) return { known: passed, next: null };
  if (passed >= SMALLEST_WHOLE && failed > LARGEST_WHOLE)
    return { known: passed, next: Math.min(LARGEST_WHOLE, passed + (passed <= claim ? 1 : 2)) };
  if (failed <= LARGEST_WHOLE && passed < SMALLEST_WHOLE)
    return { known: passed, next: Math.max(SMALLEST_WHOLE, failed - 2) };
  const between =
    failed > LARGEST_WHOLE
      ? Math.min(LARGEST_WHOLE, Math.max(SMALLEST_WHOLE, claim))
      : Math.floor((passed + failed) / 2);
  return { known: passed, next: between };
}

/** Small numbers have fewer pairs than are wanted. */
const needed = (whole: number): number => Math.min(PASSED, 2 * partsOfWhole(whole).length);

/** First parts worth asking: where counting takes longer than knowing, or all when the number is too small for that. */
const partsOfWhole = (whole: number): number[] => {
  const inner = waysOf(whole, 'turned').map(([a]) => a);
  const telling = inner.filter((a) => Math.min(a, whole - a) >= 2);
  return telling.length >= 2 ? telling : inner;
};

function checkAsk(random: Random, whole: number, soFar: readonly Answered[]): Ask {
  const asked = soFar.map((a) => a.ask.fact);
  const last = asked[asked.length - 1];
  const times = (part: number): number => asked.filter((fact) => fact === `bond:${whole}:${part}`).length;
  const parts = shuffled(random, partsOfWhole(whole)).filter(
    (part, _, all) => all.length === 1 || `bond:${whole}:${part}` !== last,
  );
  const part = parts.reduce((best, one) => (times(one) < times(best) ? one : best));
  return makeAsk(
    `bond:${whole}:${part}`,
    { show: 'part-whole', whole, first: part, second: null },
    { say: 'find-part' },
  );
}

/** Quick pairs round the number where the child is thought to be, warmly; what they say is for the adult alone. */
const workingNumberCheck: Routine = {
  id: 'working-number',
  judgedLater: true,
  shelf: { show: 'part-whole', whole: 7, first: null, second: 4 },
  group: 'check and close',
  choices: [],
  asks: () => [talk({ show: 'nothing' }, { say: 'check-start' })],
  follow: (soFar, random, wish) => {
    const last = soFar[soFar.length - 1];
    if (last?.ask.prompt.say === 'check-thanks') return [];
    const { known, next } = checkState(wish.workingNumber ?? wish.wholeTo, soFar, wish.times);
    if (next !== null) return [checkAsk(random, next, soFar)];
    return [
      {
        ...talk({ show: 'nothing' }, { say: 'check-thanks' }),
        note: { say: 'check-says', known, next: Math.min(LARGEST_WHOLE, known + 1) },
      },
    ];
  },
};

/** One quick question each, before leaving. */
const exitQuestion = (random: Random, wish: RoutineWish): Ask[] =>
  pairs(random, { ...wish, zeroToo: false, shows: 1 }, sum).map(([a, b]) =>
    makeAsk(`bond:${a + b}:${a}`, { show: 'part-whole', whole: a + b, first: a, second: null }, { say: 'find-part' }),
  );

const exit: Routine = {
  id: 'exit-question',
  untimed: true,
  group: 'check and close',
  choices: ['wholes'],
  asks: exitQuestion,
};

/** One way of today's number each → all of them once more → tell somebody one → one quick question each at the door. */
const close: Routine = {
  id: 'close',
  untimed: true,
  judgedLater: true,
  shelf: {
    show: 'ways',
    whole: 4,
    ways: [
      [1, 3],
      [2, 2],
      [3, 1],
    ],
  },
  shared: true,
  group: 'check and close',
  choices: ['wholes', 'rule'],
  asks: (random, wish) => [wayEach(wish, oneWhole(random, wish), [])],
  follow: (soFar, random, wish) => {
    const whole = Number(/^ways:(\d+)$/.exec(soFar[0]?.ask.fact ?? '')?.[1] ?? wish.wholeTo);
    const ways = soFar.filter((a) => a.ask.prompt.say === 'way-each').length;
    if (ways < wish.sitters) return [wayEach(wish, whole, soFar)];
    const leaving = { ...wish, wholeFrom: whole, wholeTo: whole };
    const all = { show: 'ways', whole, ways: waysOf(whole, wish.options.rule) } as const;
    if (!soFar.some((a) => a.ask.prompt.say === 'recap'))
      return chain([
        talk(all, { say: 'recap', whole }),
        talk(all, { say: 'tell-one', whole }),
        ...exitQuestion(random, leaving),
      ]);
    return soFar.length < 2 * wish.sitters + 2 ? exitQuestion(random, leaving) : [];
  },
};

/** One way of the number, beside those already said; said together, so that it is no proof of anything. */
function wayEach({ options: { rule } }: RoutineWish, whole: number, soFar: readonly Answered[]): Ask {
  const said = soFar.map((a) => parsePair(a.given)).filter((pair): pair is Pair => pair !== null);
  return makeAsk(
    `ways:${whole}`,
    { show: 'ways', whole, ways: sortWays(whole, rule, said).found },
    { say: 'way-each', whole },
    {
      aid: 'picture',
      want: { by: 'pair' },
      accepts: pairTexts(waysOf(whole, rule), rule),
      after: { say: 'thanks' },
    },
  );
}

export const CHECKS: readonly Routine[] = [workingNumberCheck, exit, close];
