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
    ...tried.filter(([n, { yes }]) => n < failed && yes >= PASSED).map(([n]) => n),
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

/** First parts worth asking, three at least: where counting takes longer than knowing; all when the number is too small for that, with nothing for the smallest. */
const partsOfWhole = (whole: number): number[] => {
  const all = waysOf(whole, 'turned-zero').map(([a]) => a);
  const inner = all.filter((a) => a > 0 && a < whole);
  const telling = inner.filter((a) => Math.min(a, whole - a) >= 2);
  return [telling, inner, all].find((parts) => parts.length >= PASSED) ?? all;
};

function checkAsk(random: Random, whole: number, soFar: readonly Answered[]): Ask {
  const asked = soFar.map((a) => a.ask.fact);
  const last = asked[asked.length - 1];
  const times = (part: number): number => asked.filter((fact) => fact === `bond:${whole}:${part}`).length;
  const parts = shuffled(random, partsOfWhole(whole)).filter(
    (part, _, all) => all.length === 1 || `bond:${whole}:${part}` !== last,
  );
  const part = parts.reduce((best, one) => (times(one) < times(best) ? one : best));
  return pairAsk(whole, part);
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
        note: { say: 'check-says', known },
      },
    ];
  },
};

/** A pair with its second part missing. */
const pairAsk = (whole: number, first: number, more: Partial<Ask> = {}): Ask =>
  makeAsk(`bond:${whole}:${first}`, { show: 'part-whole', whole, first, second: null }, { say: 'find-part' }, more);

/** One quick question each before leaving: of the child's own number, where that is known. */
function exitQuestion(random: Random, wish: RoutineWish): Ask[] {
  const own = wish.workingNumber;
  const wholes = own === null ? wish : { ...wish, wholeFrom: own, wholeTo: own };
  return pairs(random, { ...wholes, zeroToo: false, shows: 1 }, sum).map(([a, b]) => pairAsk(a + b, a));
}

const exit: Routine = {
  id: 'exit-question',
  untimed: true,
  group: 'check and close',
  choices: ['wholes'],
  asks: exitQuestion,
};

/** One way of today's number each → those that were said once more → tell somebody one → one quick question each at the door. All ways were heard: nothing here is judged. */
const close: Routine = {
  id: 'close',
  untimed: true,
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
    const said = { show: 'ways', whole, ways: foundIn(soFar, whole, wish) } as const;
    const door = (): Ask => doorQuestion(random, wish, whole, soFar);
    if (!soFar.some((a) => a.ask.prompt.say === 'recap'))
      return chain([talk(said, { say: 'recap', whole }), talk(said, { say: 'tell-one', whole }), door()]);
    return soFar.length < 2 * wish.sitters + 2 ? [door()] : [];
  },
};

/** The ways that were said, each once. */
const foundIn = (soFar: readonly Answered[], whole: number, { options }: RoutineWish): readonly Pair[] =>
  sortWays(whole, options.rule, soFar.map((a) => parsePair(a.given)).filter((pair): pair is Pair => pair !== null)).found; // prettier-ignore

/** One quick question at the door: of the pairs of the number, one that was asked least often here. What was said aloud a moment ago is no proof. */
function doorQuestion(random: Random, { options }: RoutineWish, whole: number, soFar: readonly Answered[]): Ask {
  const parts = shuffled(random, waysOf(whole, options.rule)).map(([a]) => a);
  const asked = (part: number): number => soFar.filter((a) => a.ask.fact === `bond:${whole}:${part}`).length;
  const part = parts.reduce((least, one) => (asked(one) < asked(least) ? one : least), parts[0] ?? 0);
  return pairAsk(whole, part, { aid: 'prompt', note: { say: 'said-already' } });
}

/** One way of the number, beside those already said; said together, so that it is no proof of anything. */
function wayEach(wish: RoutineWish, whole: number, soFar: readonly Answered[]): Ask {
  const { rule } = wish.options;
  return makeAsk(
    `ways:${whole}`,
    { show: 'ways', whole, ways: foundIn(soFar, whole, wish) },
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
