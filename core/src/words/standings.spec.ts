import { parseFact } from '../facts/fact';
import { plannedFor, plannedChildren, type ChildNeed } from '../plan/classPlan';
import { stillCounted } from '../plan/classView';
import { isAt, nameOf } from '../plan/need';
import { isFirm, standingOf, STANDINGS, type Standing } from '../plan/standing';
import { strengths } from '../plan/strengths';
import { whoKnows } from '../plan/whoKnows';
import { workingNumber } from '../plan/workingNumber';
import { evening } from '../prints/evening';
import { homeSheet } from '../prints/homeSheet';
import { judgeClass } from '../reading/judgeChild';
import { DEFAULT_READING_SETTINGS, type Reading } from '../reading/reading';
import type { Response } from '../record/response';
import { CONDITIONS } from '../rehearsal/child';
import { simulateClass } from '../rehearsal/class';
import { HARBOUR_CHILDREN } from '../rehearsal/names';
import { USUAL_WORDS } from '../routines/classWords';
import { numberToPlan, placeOfNeed } from '../plan/place';
import { schoolDays } from '../time/schoolDay';
import { english } from './english/index';
import { inLetters } from './english/numbers';

const UNTIL = Date.parse('2026-11-27T12:00:00Z');
const NOW = UNTIL + 86_400_000;
const TIME_ZONE = 'UTC';
const { standings } = english.readings;

/** A class that was lived for some weeks, its plan, and what is known of every child. */
interface Lived {
  readonly responses: readonly Response[];
  readonly readings: readonly Reading[];
  readonly plan: readonly ChildNeed[];
}
let made = 0;
function lived(condition: (typeof CONDITIONS)[number], seed: number, children: number): Lived {
  const { responses } = simulateClass({
    seed,
    names: HARBOUR_CHILDREN.slice(0, children),
    weeks: 4,
    condition,
    until: UNTIL,
    makeId: (at) => `${at}-${made++}`,
  });
  const judged = judgeClass(responses, { settings: DEFAULT_READING_SETTINGS });
  const readings = judged.flatMap((one) => one.readings);
  const asked = new Map<string, Map<string, number>>();
  for (const { child, fact, shownAt } of responses) {
    const own = asked.get(child) ?? new Map<string, number>();
    asked.set(child, own.set(fact, Math.max(shownAt, own.get(fact) ?? 0)));
  }
  const all = plannedChildren(
    [...asked].map(([id, own]) => ({ id, lastAskedAt: Math.max(...own.values()), halfLifeDays: null, support: [] })),
    readings,
    [...asked].flatMap(([child, own]) => [...own].map(([fact, at]) => ({ child, fact, at }))),
  );
  return { responses, readings, plan: plannedFor({ children: all, now: NOW, timeZone: TIME_ZONE, aim: 'practise' }) };
}

const plain = (text: string): string => text.replaceAll('\u00a0', ' ');
const ofChild = ({ readings }: Lived, child: string): Reading[] => readings.filter((one) => one.child === child);
const standingIn = (readings: readonly Reading[], fact: string): Standing =>
  standingOf(readings.find((one) => one.fact === fact));

const escaped = (text: string): string => text.replace(/[+?]/g, '\\$&');
/** What a reason claims: facts, and how they are said to stand. */
function claimsOf(reason: string, facts: readonly string[]): { said: Standing; facts: string[] }[] {
  return plain(reason)
    .split('; ')
    .flatMap((part) => {
      const said = STANDINGS.find((one) =>
        part.startsWith(`${one === 'known' ? 'to keep practising' : standings[one]}: `),
      );
      if (!said) return [];
      const named = part.slice(part.indexOf(': ') + 2);
      const found = facts.filter((fact) =>
        fact.startsWith('show:')
          ? new RegExp(`seeing.*\\b${parseFact(fact).answer}\\b`).test(named)
          : new RegExp(`(^| and |, )${escaped(english.fact(fact))}( and |,|$)`).test(named),
      );
      return [{ said, facts: found }];
    });
}

/** What is not as the set of facts has it: each sentence of every place is recomputed from the readings and the answers alone. */
function amissIn(all: Lived): string[] {
  const amiss: string[] = [];
  const check = (holds: boolean, what: string): void => {
    if (!holds) amiss.push(what);
  };
  const dayOf = schoolDays(TIME_ZONE);
  for (const one of all.plan) {
    const own = ofChild(all, one.child);
    const answers = all.responses.filter((r) => r.child === one.child);
    const reason = english.plan.reason(one);
    const at = `${one.child}, ${nameOf(one.need)}: ${reason}`;
    // Today, the week, Class and Child: how each fact that is named stands, that it is asked, and when the child was asked last.
    const claims = claimsOf(
      reason,
      one.facts.map(({ fact }) => fact),
    );
    for (const { said, facts } of claims) {
      check(facts.length > 0, `names nothing that is asked: ${at}`);
      check(
        facts.some((fact) => standingIn(own, fact) === said) &&
          facts.every((fact) => fact.startsWith('show:') || standingIn(own, fact) === said),
        `“${said}”: ${at}`,
      );
    }
    const last = Math.max(...answers.filter((r) => r.void === '').map((r) => r.shownAt));
    const days = dayOf(NOW) - dayOf(last);
    check(one.daysSince === days && (days < 2 || reason.includes(`last asked ${days} days ago`)), `asked: ${at}`);
    if (one.need.need === 'undoing' && one.behind) {
      const { whole } = one.need;
      const sums = own.filter(
        (r) => r.responses > 0 && r.fact.includes('+') && !r.fact.includes('?') && isSum(r, whole),
      );
      const known = sums.filter((r) => standingOf(r) === 'known').length;
      check(one.behind.asked === sums.length && one.behind.known === known, `sums behind: ${at}`);
    }
    for (const { fact, role } of one.facts) {
      if (role === 'need') check(isAt(one.need, fact), `not at its need, ${fact}: ${at}`);
      if (role === 'warm') check(standingIn(own, fact) === 'known', `kept warm, ${fact}: ${at}`);
    }
    // The number in its words: as many pairs as were asked and are known.
    const found = workingNumber(own);
    const sentence = english.plan.workingNumber(found, one.child);
    const below = [...found.pairs].flatMap(([whole, pairs]) =>
      found.number !== null && whole < found.number ? pairs.filter(({ standing }) => standing !== 'not asked') : [],
    );
    const known = below.filter(({ standing }) => standing === 'known').length;
    const count = `${known === below.length ? 'All' : 'Of'} ${inLetters(below.length)} smaller pairs asked`;
    check(below.length < 2 || sentence.includes(count), `pairs: ${sentence}`);
    // Parents: the plan's number, and nothing told as known that is not so, or rests on one answer.
    const place = placeOfNeed(own, one.need);
    const number = numberToPlan(place);
    const papers = JSON.stringify([
      evening({
        nickname: one.child,
        today: '',
        help: place.help,
        need: one.need,
        readings: own,
        door: '',
        support: [],
        words: USUAL_WORDS,
        say: english,
      }),
      homeSheet({ nickname: one.child, number, words: USUAL_WORDS, direction: 'rows', ink: 'colour', say: english }),
    ]);
    if ('whole' in one.need)
      check(
        number === one.need.whole && papers.includes(`${inLetters(number)} small things`),
        `another number for parents: ${at}`,
      );
    const told = strengths(own);
    for (const fact of told.facts) {
      const reading = own.find((r) => r.fact === fact)!;
      check(standingOf(reading) === 'known' && isFirm(reading), `told to parents as known: ${one.child} ${fact}`);
    }
  }
  // Class: who knows what, and what is not known yet, by the same standing.
  const names = all.plan.map(({ child }) => child);
  for (const { fact, asked, open } of stillCounted(all.readings, 2)) {
    const here = all.readings.filter((r) => r.fact === fact && standingOf(r) !== 'not asked');
    check(asked === here.length, `${fact}: ${asked} of ${here.length} asked`);
    for (const { child, standing } of open)
      check(standingIn(ofChild(all, child), fact) === standing, `${fact} of ${child}: ${standing}`);
    check(english.pages.classPage.openOf(asked, open).endsWith(`of the ${here.length} asked`), `${fact}: words`);
    for (const [child, standing] of whoKnows({ about: 'fact', fact }, names, all.readings))
      check(standingIn(ofChild(all, child), fact) === standing, `who knows ${fact}: ${child} ${standing}`);
  }
  return amiss;
}
const isSum = (reading: Reading, whole: number): boolean => {
  const fact = parseFact(reading.fact);
  return fact.kind === 'add' && 'whole' in fact && fact.whole === whole && Math.min(...fact.parts) > 0;
};

describe('what every place says of a child is what the readings say', () => {
  it('for twenty children', () => expect(amissIn(lived('plain', 61, 20))).toEqual([]));

  it.each(CONDITIONS.map((condition, i) => [condition, i] as const))('in a class that is %s @long', (condition, i) => {
    const all = lived(condition, 70 + i, 9);
    expect(all.plan.length).toBe(9);
    expect(amissIn(all)).toEqual([]);
  });
});
