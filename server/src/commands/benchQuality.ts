import {
  auc,
  brier,
  calibrationError,
  CONDITIONS,
  DEFAULT_READING_SETTINGS,
  InformedJudge,
  judgeClass,
  READING_WORDS,
  Told,
  usualRule,
  type Condition,
  type Judged01,
  type Reading,
  type ReadingWord,
  type Response,
  type SimulatedClass,
} from '@vane/core';
import { classOf } from './benchClass';

/** Part `quality` of the bench: how good the readings are, held against the truth of simulated classes. */

const CHILDREN = 24;
const WEEKS = 6;
/** Seeds that were looked at while the model was made, and seeds that were not. */
const SEEDS = { looked: [7, 19], unseen: [31, 43] } as const;
const OPTIONS = { settings: DEFAULT_READING_SETTINGS };
const KNOWN = 0.8;

/** Readings of a class by child and fact. */
const readingsOf = (simulated: SimulatedClass): ReadonlyMap<string, Reading> =>
  new Map(
    judgeClass(simulated.responses, OPTIONS).flatMap((j) =>
      j.readings.map((r) => [`${r.child} ${r.fact}`, r] as const),
    ),
  );

function byFact(responses: readonly Response[]): ReadonlyMap<string, readonly Response[]> {
  const answers = new Map<string, Response[]>();
  for (const r of responses) {
    const own = answers.get(`${r.child} ${r.fact}`);
    if (own) own.push(r);
    else answers.set(`${r.child} ${r.fact}`, [r]);
  }
  return answers;
}

const number = (x: number | null): number => x ?? NaN;
const mean = (xs: readonly number[]): number => xs.reduce((a, b) => a + b, 0) / xs.length;

/** One condition under some seeds, beside the usual rule and a judge who is told. `between`: of facts given 0.2 to 0.7, what was said and how often it was so. */
function under(condition: Condition, seeds: readonly number[], told: Told) {
  const judged = { ours: [] as Judged01[], rule: [] as Judged01[], told: [] as Judged01[] };
  const knows: boolean[] = [];
  for (const seed of seeds) {
    const simulated = classOf(seed, CHILDREN, WEEKS, condition);
    const readings = readingsOf(simulated);
    const answers = byFact(simulated.responses);
    const sittings = new Map(simulated.sittings.map((s) => [s.id, s]));
    const judges = new Map(
      simulated.children.map((child) => [child.name, new InformedJudge(told, (r) => sittings.get(r.sitting)!)]),
    );
    for (const { child, fact, retrieveShare } of simulated.truth) {
      const own = answers.get(`${child} ${fact}`) ?? [];
      const reading = readings.get(`${child} ${fact}`);
      const truth = retrieveShare >= KNOWN;
      judged.ours.push({ p: reading?.pAutomatic ?? 0, truth });
      judged.rule.push({ p: usualRule(own), truth });
      judged.told.push({ p: judges.get(child)!.judge(fact, own), truth });
      if (reading?.reading === 'knows') knows.push(truth);
    }
  }
  const [ours, rule, best] = [judged.ours, judged.rule, judged.told].map((all) => number(brier(all))) as [
    number,
    number,
    number,
  ];
  const between = judged.ours.filter(({ p }) => p >= 0.2 && p <= 0.7);
  return {
    facts: judged.ours.length,
    ours,
    rule,
    told: best,
    closed: (rule - ours) / (rule - best),
    calibration: number(calibrationError(judged.ours)),
    area: number(auc(judged.ours)),
    said: mean(between.map(({ p }) => p)),
    true: mean(between.map(({ truth }) => Number(truth))),
    knowsRight: mean(knows.map(Number)),
  };
}

export function quality(): object {
  const rows = CONDITIONS.map((condition) => {
    const told = new Told(condition);
    return {
      condition,
      looked: under(condition, SEEDS.looked, told),
      unseen: under(condition, SEEDS.unseen, told),
    };
  });
  return { seeds: SEEDS, children: CHILDREN, weeks: WEEKS, rows };
}

const WORDS_AFTER = [4, 6, 8, 12];

/** Right: "knows" of a known fact, anything else of one that is not; of what settles nothing, the share known. */
const isRight = (word: ReadingWord, known: boolean): boolean =>
  word === 'knows' || word === 'in between' || word === 'too few answers' ? known : !known;

/** How many of a class's facts end in each word after some weeks, and how often each is right. */
export function wordsOverWeeks(): object {
  return CONDITIONS.map((condition) => ({
    condition,
    after: WORDS_AFTER.map((weeks) => {
      const simulated = classOf(SEEDS.unseen[0], CHILDREN, weeks, condition);
      const readings = readingsOf(simulated);
      const read = simulated.truth.map(({ child, fact, retrieveShare }) => ({
        word: readings.get(`${child} ${fact}`)?.reading ?? ('too few answers' as const),
        known: retrieveShare >= KNOWN,
      }));
      return {
        weeks,
        words: READING_WORDS.map((word) => {
          const own = read.filter((r) => r.word === word);
          return {
            word,
            share: own.length / read.length,
            right: own.length === 0 ? null : mean(own.map((r) => Number(isRight(word, r.known)))),
          };
        }),
      };
    }),
  }));
}
