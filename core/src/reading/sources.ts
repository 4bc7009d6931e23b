import type { Timed } from '../latency/fit';
import { matchTime, type ChildTimes } from '../latency/times';
import { adultMarks, type AnswerMode } from '../record/response';
import { matching } from '../statistics/logNormal';
import type { ChildData, ChildFact } from './childData';
import type { ChildState } from './childState';
import type { ClassValues } from './classValues';
import { untimedLikelihood, USUAL_MARKING, type Likelihood } from './likelihood';

/** What a time and a mark went through beside the child (docs/model.md, "Adults and devices"): what one child's answers say of it, and what a class's children say together. */

/** The likelihood of a fact's answers without their times, as those mark who marked them. */
export function untimedOf({ fact, answers, untimed }: ChildFact, { adults }: ClassValues): readonly Likelihood[] {
  return answers.map((r, i) => {
    const marking = r.markedBy === '' ? undefined : adults[r.markedBy];
    if (!marking || (r.sign === null && !adultMarks(r.answerMode))) return untimed[i]!;
    return untimedLikelihood(r, fact, adultMarks(r.answerMode) ? marking : { ...marking, slips: 0 });
  });
}

/** A copied numeral further off than this says that somebody looked away (logarithm). */
const FARTHEST_OFF = 0.8;

/** By source, copied numerals and the sum of how much later (logarithm) they came than this child's usual. */
export function lateBySource(timed: readonly Timed[], times: ChildTimes): ChildState['sums']['sources'] {
  const late = new Map<string, { copies: number; late: number }>();
  const usual = new Map<AnswerMode, number>();
  for (const { what, source, mode, seconds } of timed) {
    if (what !== 'copy' || source === mode) continue;
    let at = usual.get(mode);
    if (at === undefined) usual.set(mode, (at = matching(matchTime(times, mode)).mu));
    let own = late.get(source);
    if (!own) late.set(source, (own = { copies: 0, late: 0 }));
    own.copies++;
    own.late += Math.max(-FARTHEST_OFF, Math.min(FARTHEST_OFF, Math.log(seconds) - at));
  }
  return late;
}

/** Worth of "no later than others", in copied numerals. */
const GUESS_COPIES = 2;
/** Worth of the usual trust in signs, in signs, and of the usual rate of slips, in copied numerals. */
const GUESS_SIGNS = 12;
const GUESS_MARKED = 50;
/** Share of numbers marked wrongly before an adult's own is known. */
const SLIPS = 0.01;

const added = <T extends Record<string, number>>(maps: readonly ReadonlyMap<string, T>[]): Map<string, T> => {
  const sums = new Map<string, T>();
  for (const map of maps)
    for (const [key, value] of map) {
      const now = sums.get(key);
      sums.set(key, Object.fromEntries(Object.entries(value).map(([name, x]) => [name, x + (now?.[name] ?? 0)])) as T);
    }
  return sums;
};

/** By how much later answers come through one adult or device than through the others of the same mode: the children who answered through several tell. */
export function sourcesOf(states: readonly ChildState[]): ClassValues['sources'] {
  const sums = added(states.map((s) => s.sums.sources));
  const modeOf = (source: string): string => source.slice(0, source.indexOf(' '));
  const late = [...sums].map(([source, sum]) => ({
    source,
    copies: sum.copies,
    mode: modeOf(source),
    shift: sum.late / (sum.copies + GUESS_COPIES),
  }));
  return Object.fromEntries(
    late.map(({ source, copies, mode, shift }) => {
      const same = late.filter((one) => one.mode === mode);
      const all = same.reduce((sum, one) => sum + one.copies, 0);
      const middle = same.reduce((sum, one) => sum + one.copies * one.shift, 0) / all;
      return [source, { shift: shift - middle, copies }];
    }),
  );
}

/** How each adult marks: signs against the times, and numbers against numerals that children only had to copy. */
export function adultsOf(states: readonly ChildState[], children: readonly ChildData[]): ClassValues['adults'] {
  const signs = added(states.map((s) => s.sums.signs));
  const marked = added(children.map((c) => c.markedCopies));
  return Object.fromEntries(
    [...new Set([...signs.keys(), ...marked.keys()])].map((adult) => {
      const { signs: all, right } = signs.get(adult) ?? { signs: 0, right: 0 };
      const { copies, wrong } = marked.get(adult) ?? { copies: 0, wrong: 0 };
      const trust = (GUESS_SIGNS * USUAL_MARKING.trust + right) / (GUESS_SIGNS + all);
      const slips = (GUESS_MARKED * SLIPS + wrong) / (GUESS_MARKED + copies);
      return [adult, { trust, slips, signs: all, copies }];
    }),
  );
}
