import {
  DAY_MS,
  answerFact,
  DEFAULT_READING_SETTINGS,
  HARBOUR_CHILDREN,
  isAt,
  judgeClass,
  NOTHING_ADDED,
  parseFact,
  planDay,
  plannedChildren,
  planWeek,
  seeded,
  simulateClass,
  type Need,
  type PlannedChild,
  workingNumber,
  isShort,
  type Response,
} from '@vane/core';

/** Part `plan` of the bench: half a term lived by the plan, and what it costs to make one. */
const OPTIONS = { settings: DEFAULT_READING_SETTINGS };
const CHILDREN = 24;
const WEEKS = 6;
const SCHOOL_DAYS = [0, 1, 2, 3, 4];
/** A Monday, nine in the morning. */
const START = Date.UTC(2026, 8, 7, 9);
/** How often a child is away on a day. */
const AWAY = 0.06;
const TIMES = 2;

function wanted(responses: readonly Response[], names: readonly string[]): PlannedChild[] {
  const judgements = new Map(judgeClass(responses, OPTIONS).map((j) => [j.estimate.child, j]));
  const last = new Map<string, Map<string, number>>(names.map((name) => [name, new Map()]));
  for (const { child, fact, shownAt } of responses) last.get(child)!.set(fact, shownAt);
  return plannedChildren(
    names.map((id) => ({
      id,
      lastAskedAt: Math.max(...last.get(id)!.values()),
      halfLifeDays: judgements.get(id)?.estimate.halfLifeDays ?? null,
      support: [],
    })),
    [...judgements.values()].flatMap(({ readings }) => readings),
    [...last].flatMap(([child, facts]) => [...facts].map(([fact, at]) => ({ child, fact, at }))),
  );
}

/** Every school day the next five are planned from the record as it is then, the first of them is lived with whoever is there, and what the simulated children answered is judged. */
function halfTerm(adults: number, minutes: number): object {
  const names: readonly string[] = HARBOUR_CHILDREN.slice(0, CHILDREN);
  let made = 0;
  const makeId = (): string => `r${made++}`;
  const before = simulateClass({ seed: 43, names, weeks: 2, until: START, makeId });
  const responses = [...before.responses];
  const truly = new Map(before.children.map((child) => [child.name, child]));
  const random = seeded(4711);
  const heard = names.map(() => Array.from({ length: WEEKS }, () => 0));
  const there = names.map(() => Array.from({ length: WEEKS }, () => 0));
  const sizes: number[] = [];
  const asked = { all: 0, fits: 0, right: 0, need: 0, atNumber: 0, short: 0 };
  const work = Array.from({ length: adults }, () => 0);
  let longestWait = 0;
  for (let week = 0; week < WEEKS; week++)
    for (const weekday of SCHOOL_DAYS) {
      const now = START + (7 * week + weekday) * DAY_MS;
      const away = new Set(names.filter(() => random() < AWAY));
      names.forEach((name, i) => (there[i]![week]! += Number(!away.has(name))));
      const days = SCHOOL_DAYS.map((d) => weekday + d).map((d) => now + (d - weekday + (d > 4 ? 2 : 0)) * DAY_MS);
      const children = wanted(responses, names);
      const numbers = new Map(children.map((one) => [one.child, workingNumber(one.readings).number]));
      for (const { child, lastAskedAt } of children)
        if (week > 0 && lastAskedAt !== null && !away.has(child))
          longestWait = Math.max(longestWait, (now - lastAskedAt) / DAY_MS);
      const [today] = planWeek({
        children,
        days,
        timeZone: 'UTC',
        adults,
        minutes,
        group: 4,
        times: TIMES,
        away: (child, day) => day === 0 && away.has(child),
      });
      const moment = { back: 1 - (7 * week + weekday) / (7 * WEEKS), sinceHoliday: null, tempo: 1 };
      for (const { children: together, needs, adult, minutes: took } of today?.sessions ?? []) {
        sizes.push(together.length);
        work[adult]! += took;
        for (const { child, facts, need: own } of together) {
          heard[names.findIndex((name) => name === child)]![week]!++;
          facts.forEach(({ fact: text, whole, role }, n) => {
            const fact = parseFact(text);
            const answer = answerFact(truly.get(child)!, fact, 'tap', moment, random);
            const right = answer.given === fact.answer;
            asked.all++;
            asked.fits += Number(needs.some((need: Need) => isAt(need, text)));
            asked.right += Number(right);
            if (role === 'need') {
              asked.need++;
              asked.atNumber += Number(whole === numbers.get(child) || own.need === 'anchor' || own.need === 'seeing');
              asked.short += Number(isShort(text) && (numbers.get(child) ?? 10) >= 5);
            }
            responses.push({
              ...NOTHING_ADDED,
              id: makeId(),
              child,
              sitting: `${now} ${child}`,
              shownAt: now + n * 10_000,
              kind: fact.kind,
              fact: text,
              answerMode: 'tap',
              exposureMs: fact.kind === 'show' ? 750 : null,
              responseMs: answer.responseMs,
              given: String(answer.given),
              outcome: right ? 'correct' : 'wrong',
              sign: answer.sign,
            });
          });
        }
      }
    }
  // Somebody who was there on one day of a week can be heard once in it.
  const could = there.flatMap((weeks) => weeks.map((days) => Math.min(TIMES, days)));
  const were = heard.flat();
  const perChild = heard.map((weeks) => weeks.reduce((a, b) => a + b, 0));
  return {
    adults,
    minutes,
    asOften: were.filter((times, i) => times >= could[i]!).length / were.length,
    atAll: were.filter((times, i) => times >= Math.min(1, could[i]!)).length / were.length,
    least: Math.min(...perChild),
    most: Math.max(...perChild),
    size: sizes.reduce((a, b) => a + b, 0) / sizes.length,
    alone: sizes.filter((size) => size === 1).length / sizes.length,
    fits: asked.fits / asked.all,
    right: asked.right / asked.all,
    ofNeed: asked.need / asked.all,
    atNumber: asked.atNumber / asked.need,
    short: asked.short / asked.need,
    longestWait,
    work: work.map((all) => all / (WEEKS * SCHOOL_DAYS.length)),
  };
}

/** Milliseconds to plan a day and a week of a large class, the middle of several. */
function cost(): object {
  const names = Array.from({ length: 30 }, (_, i) => `child-${i}`);
  let made = 0;
  const { responses } = simulateClass({ seed: 11, names, weeks: 8, until: START, makeId: () => `r${made++}` });
  const children = wanted(responses, names);
  const timed = (work: () => unknown): number => {
    const took = Array.from({ length: 9 }, () => {
      const began = performance.now();
      work();
      return performance.now() - began;
    });
    return took.sort((a, b) => a - b)[4]!;
  };
  const common = { children, timeZone: 'UTC' };
  const days = SCHOOL_DAYS.map((d) => START + d * DAY_MS);
  return {
    dayMs: timed(() => planDay({ ...common, now: START, aim: 'practise', adults: 1, minutes: 20, group: 4 })),
    weekMs: timed(() => planWeek({ ...common, days, adults: 3, minutes: 15, group: 4, times: TIMES })),
  };
}

export const planFigures = (): object => ({
  children: CHILDREN,
  weeks: WEEKS,
  away: AWAY,
  times: TIMES,
  halfTerms: [halfTerm(2, 15), halfTerm(1, 8)],
  cost: cost(),
});
