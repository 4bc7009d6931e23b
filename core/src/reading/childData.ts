import { DAY_MS } from '../time/schoolDay';
import { parseFact, type Fact } from '../facts/fact';
import type { Timed } from '../latency/fit';
import { adultMarks, sourceOf, type AnswerMode, type Response } from '../record/response';
import { grouped } from '../statistics/grouped';
import { tally, type Tallies } from '../statistics/tally';
import { hasTime, type ChildRecord, type FactRecord, type TimedResponse } from './childRecord';
import { domainOf, placeFact, type Domain, type PlacedFact } from './features';
import { untimedLikelihood, type Likelihood } from './likelihood';
import { NEWEST } from './posterior';

/** Edges of the age blocks, in days: within a block a child's knowledge is taken as constant. */
export const BLOCK_EDGES = [5, 12, 21, 35] as const;
/** Shorter than this, a record says nothing of growth in share, days. */
const LEAST_SPAN_DAYS = 14;
const NOT_ASKED: FactRecord = { evidence: [], answers: [], signs: new Set() };
/** Newest timed answers used to fit a child's times: more cost time and add nothing. */
const NEWEST_TIMED = 180;
/** The same of copies and of counts: copies are many, and would push out of the fit what tells the pace. */
const NEWEST_COPIES = 90;
const NEWEST_COUNTS = 24;

/** One fact of a child with the answers that are evidence, newest first. */
export interface ChildFact {
  readonly fact: Fact;
  readonly placed: PlacedFact;
  readonly domain: Domain;
  readonly answers: readonly Response[];
  /** Every answer to it that is evidence, not only the newest. */
  readonly record: FactRecord;
  /** The same answers in blocks of like age, newest first; `answers` from … to, of this mean age in days before the reading. */
  readonly blocks: readonly Block[];
  /** Age of each answer in days before the reading, in the order of `answers`. */
  readonly ages: readonly number[];
  /** Likelihood of each answer and its sign, without its time, as the usual adult marks. */
  readonly untimed: readonly Likelihood[];
  /** The timed answers of this fact among the child's, in the order of `answers`; null where there is no time. */
  readonly timed: readonly (Timed | null)[];
}

export interface Block {
  readonly from: number;
  readonly to: number;
  readonly ageDays: number;
  /** Given before the newest holiday. */
  readonly beforeBreak: boolean;
}

/** A child's responses, sorted once for all later passes. */
export interface ChildData {
  readonly child: string;
  readonly facts: readonly ChildFact[];
  readonly timed: readonly Timed[];
  /** All that has a time, not only the newest, by answer mode. */
  readonly byMode: ReadonlyMap<AnswerMode, readonly Timed[]>;
  /** Names of the sittings (`sittingKey`), the oldest first. */
  readonly sittings: readonly string[];
  readonly copies: Readonly<Partial<Record<AnswerMode, number>>>;
  /** Numerals copied in answers that an adult marks, by adult: how many, and for how many of them another number was marked. */
  readonly markedCopies: Tallies;
  readonly counts: number;
  /** Age of the oldest judged answer in days, and no less than LEAST_SPAN_DAYS. */
  readonly spanDays: number;
  /** The child was away for long, and answered before and after. */
  readonly hadBreak: boolean;
}

const ageOf = (r: Response, asOf: number): number => Math.max(0, (asOf - r.shownAt) / DAY_MS);

function blocksOf(answers: readonly Response[], asOf: number, back: number | null): Block[] {
  const age = (r: Response): number => ageOf(r, asOf);
  const key = (r: Response): string =>
    `${BLOCK_EDGES.filter((edge) => age(r) >= edge).length} ${back !== null && r.shownAt < back}`;
  const blocks: Block[] = [];
  for (let from = 0, to = 0; from < answers.length; from = to) {
    let sum = 0;
    while (to < answers.length && key(answers[to]!) === key(answers[from]!)) sum += age(answers[to++]!);
    blocks.push({ from, to, ageDays: sum / (to - from), beforeBreak: back !== null && answers[from]!.shownAt < back });
  }
  return blocks;
}

/** Where an answer stands among the child's: the place of its sitting, the oldest 0, and how far into it (0 … 1). */
type Standing = Pick<Timed, 'sitting' | 'within'>;

/** What names an answer's sitting. Answers of which no sitting is known belong together by their day. */
export const sittingKey = (r: Response): string => r.sitting || `${Math.floor(r.shownAt / DAY_MS)}`;

function standings(responses: readonly Response[]): {
  readonly sittings: readonly string[];
  readonly standingOf: (r: Response) => Standing;
} {
  const ends = new Map<string, { first: number; last: number }>();
  for (const r of responses) {
    const at = ends.get(sittingKey(r));
    if (!at) ends.set(sittingKey(r), { first: r.shownAt, last: r.shownAt });
    else if (r.shownAt < at.first) at.first = r.shownAt;
    else if (r.shownAt > at.last) at.last = r.shownAt;
  }
  const places = new Map(
    [...ends].sort(([, a], [, b]) => a.first - b.first).map(([sitting, at], place) => [sitting, { ...at, place }]),
  );
  const standingOf = (r: Response): Standing => {
    const { place, first, last } = places.get(sittingKey(r))!;
    return { sitting: place, within: last > first ? (r.shownAt - first) / (last - first) : 0.5 };
  };
  return { sittings: [...places.keys()], standingOf };
}

/**
 * @param asOf the moment of the reading, milliseconds since 1970
 * @param alsoFacts facts to judge even without an answer
 * @param newest how many of a fact's answers are used
 */
export function childData(
  { child, facts: asked, measures, back }: ChildRecord,
  asOf: number,
  alsoFacts: readonly string[],
  newest = NEWEST,
): ChildData {
  const copies: Partial<Record<AnswerMode, number>> = {};
  const markedCopies: Tallies = new Map();
  let counts = 0;
  for (const r of measures) {
    if (r.kind !== 'match') {
      counts++;
      continue;
    }
    copies[r.answerMode] = (copies[r.answerMode] ?? 0) + 1;
    if (r.markedBy !== '' && adultMarks(r.answerMode)) tally(markedCopies, r.markedBy, Number(r.outcome === 'wrong'));
  }
  const used = [...measures, ...[...asked.values()].flatMap(({ evidence }) => evidence.slice(-newest))];
  const { sittings, standingOf } = standings(used);
  const newestOf = (kind: Response['kind'], most: number): TimedResponse[] =>
    measures.filter((r) => r.kind === kind).slice(-most);
  const baseline = [...newestOf('match', NEWEST_COPIES), ...newestOf('count', NEWEST_COUNTS)].map((r): Timed => {
    const steps = r.kind === 'count' ? parseFact(r.fact).answer : 0;
    return {
      what: r.kind === 'match' ? 'copy' : 'count',
      mode: r.answerMode,
      seconds: r.responseMs / 1000,
      source: sourceOf(r),
      ...standingOf(r),
      shift: 0,
      steps: { fromGreater: steps, all: steps },
      weights: [0, 0, 1, 0],
    };
  });
  const facts = [...new Set([...asked.keys(), ...alsoFacts])]
    .sort((a, b) => (a < b ? -1 : 1))
    .map((text): ChildFact => {
      const fact = parseFact(text);
      const record = asked.get(text) ?? NOT_ASKED;
      const answers = record.evidence.slice(-newest).reverse();
      return {
        fact,
        placed: placeFact(fact),
        domain: domainOf(fact),
        answers,
        record,
        blocks: blocksOf(answers, asOf, back),
        ages: answers.map((r) => ageOf(r, asOf)),
        untimed: answers.map((r) => untimedLikelihood(r, fact)),
        timed: answers.map((r) =>
          !hasTime(r)
            ? null
            : {
                what: 'fact',
                mode: r.answerMode,
                seconds: r.responseMs / 1000,
                source: sourceOf(r),
                ...standingOf(r),
                shift: 0,
                steps: { fromGreater: 0, all: 0 },
                weights: [0.25, 0.25, 0.25, 0.25],
              },
        ),
      };
    });
  const newestTimed = facts
    .flatMap((f) => f.timed.map((timed, i) => ({ timed, at: f.answers[i]!.shownAt })))
    .filter((one): one is { timed: Timed; at: number } => one.timed !== null)
    .sort((a, b) => b.at - a.at)
    .slice(0, NEWEST_TIMED)
    .map(({ timed }) => timed);
  return {
    child,
    facts,
    timed: [...baseline, ...newestTimed],
    byMode: grouped([...baseline, ...facts.flatMap((f) => f.timed.filter((t) => t !== null))], ({ mode }) => mode),
    sittings,
    copies,
    markedCopies,
    counts,
    spanDays: Math.max(LEAST_SPAN_DAYS, ...facts.map(({ ages }) => ages.at(-1) ?? 0)),
    hadBreak: back !== null,
  };
}
