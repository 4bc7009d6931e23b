import { DAY_MS } from '../time/schoolDay';
import { factsWithinTen, parseFact } from '../facts/fact';
import { expectedGain } from '../plan/expectedGain';
import { proposeFacts } from '../plan/propose';
import { shuffled, type Random } from '../random/random';
import { CLASS_BEFORE } from '../reading/classValues';
import { judgeChild } from '../reading/judgeChild';
import { DEFAULT_READING_SETTINGS, type Reading } from '../reading/reading';
import { NOTHING_ADDED, type Response } from '../record/response';
import { answerFact } from './answer';
import { retrieveShare, TODAY, type SimulatedChild } from './child';

/** How the questions of each sitting are chosen: by the plan, or every fact in turn in a shuffled order. */
type Chosen = 'planned' | 'shuffled';

const A_SITTING = 12;
const COPIES = [3, 7, 5, 8];
const COUNTS = [5, 7, 6, 8];
/** A fact is known when it is retrieved in this share of cases. */
const KNOWN = 0.8;

const FACTS = (['add', 'subtract', 'missing'] as const).flatMap((operation) => factsWithinTen(operation));

/**
 * How many answers a judge who begins with nothing needs until a share of all facts within ten is read rightly (known, or not) and stays so, sitting by sitting, one a day.
 * @param until share of facts, 0 to 1
 * @param most answers that are asked in all
 * @returns answers, and at least `most` when that was not enough
 */
export function answersUntil(
  child: SimulatedChild,
  chosen: Chosen,
  random: Random,
  until: number,
  most: number,
): number {
  const responses: Response[] = [];
  const lastAsked = new Map<string, number>();
  // Any moment will do: only the days between count.
  const start = 20_000 * DAY_MS;
  const ask = (text: string, at: number): void => {
    const fact = parseFact(text);
    const answer = answerFact(child, fact, 'tap', TODAY, random);
    lastAsked.set(text, at);
    responses.push({
      ...NOTHING_ADDED,
      id: `r${responses.length}`,
      child: child.name,
      sitting: `s${Math.floor((at - start) / DAY_MS)}`,
      shownAt: at,
      kind: fact.kind,
      fact: text,
      answerMode: 'tap',
      exposureMs: null,
      responseMs: answer.responseMs,
      given: String(answer.given),
      outcome: answer.given === fact.answer ? 'correct' : 'wrong',
      sign: answer.sign,
    });
  };
  [...COPIES.map((n) => `match:${n}`), ...COUNTS.map((n) => `count:${n}:scatter`)].forEach((text, i) =>
    ask(text, start + i * 9_000),
  );
  const sweep: string[] = [];
  let readings: readonly Reading[] = [];
  let enough = most;
  for (let day = 0; responses.length < most; day++) {
    const now = start + day * DAY_MS + 600_000;
    while (sweep.length < A_SITTING) sweep.push(...shuffled(random, FACTS));
    const facts =
      chosen === 'shuffled'
        ? sweep.splice(0, A_SITTING)
        : proposeFacts({
            readings,
            lastAsked,
            now,
            timeZone: 'UTC',
            aim: 'judge',
            gainOf: expectedGain,
            count: A_SITTING,
            without: SHOWN,
          }).map(({ fact }) => fact);
    facts.forEach((text, i) => ask(text, now + i * 9_000));
    ({ readings } = judgeChild(child.name, responses, CLASS_BEFORE, {
      settings: DEFAULT_READING_SETTINGS,
      alsoFacts: FACTS,
      asOf: now + 3_600_000,
    }));
    const p = new Map(readings.map((r) => [r.fact, r.pAutomatic]));
    const right = FACTS.filter(
      (text) => (p.get(text) ?? 0) >= 0.5 === retrieveShare(child, parseFact(text), TODAY) >= KNOWN,
    ).length;
    if (right < until * FACTS.length) enough = most;
    else if (enough === most) enough = Math.min(most, responses.length);
  }
  return enough;
}

/** Seeing is not among the facts within ten that are counted here. */
const SHOWN: ReadonlySet<string> = new Set(
  Array.from({ length: 10 }, (_, i) => [`show:${i + 1}:five`, `show:${i + 1}:frame-fives`]).flat(),
);
