import type { Timed } from '../latency/fit';
import { matchTime, type ChildTimes } from '../latency/times';
import type { AnswerMode } from '../record/response';
import { grouped } from '../statistics/grouped';
import { fentonWilkinson } from '../statistics/logNormal';
import { tallied, tally, type Tallies } from '../statistics/tally';
import type { ChildData, ChildFact } from './childData';
import type { ChildState } from './childState';
import type { ClassValues } from './classValues';
import { untimedLikelihood, USUAL_MARKING, type Likelihood } from './likelihood';

/** What a time and a mark went through beside the child (docs/model.md, "Adults and devices"): what one child's answers say of it, and what a class's children say together. */

/** The likelihood of a fact's answers without their times, as those mark who marked them. */
export function untimedOf({ fact, answers, untimed }: ChildFact, { adults }: ClassValues): readonly Likelihood[] {
  return answers.map((r, i) => {
    // A file may name anybody as anything.
    const marking = Object.hasOwn(adults, r.markedBy) ? adults[r.markedBy] : undefined;
    return marking ? untimedLikelihood(r, fact, marking) : untimed[i]!;
  });
}

/** A copied numeral further off than this says that somebody looked away (logarithm). */
const FARTHEST_OFF = 0.8;

/** By source, copied numerals and the sum of how much later (logarithm) they came than this child's usual. */
export function lateBySource(timed: readonly Timed[], times: ChildTimes): Tallies {
  const late: Tallies = new Map();
  const usual = new Map<AnswerMode, number>();
  for (const { what, source, mode, seconds } of timed) {
    if (what !== 'copy' || source === mode) continue;
    let at = usual.get(mode);
    if (at === undefined) usual.set(mode, (at = fentonWilkinson(matchTime(times, mode)).mu));
    tally(late, source, Math.max(-FARTHEST_OFF, Math.min(FARTHEST_OFF, Math.log(seconds) - at)));
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

/** By how much later answers come through one adult or device than through the others of the same mode: the children who answered through several tell. */
export function sourcesOf(states: readonly ChildState[]): ClassValues['sources'] {
  const late = [...tallied(states.map((s) => s.sums.sources))].map(([source, { n, sum }]) => ({
    source,
    mode: source.slice(0, source.indexOf(' ')),
    copies: n,
    shift: sum / (n + GUESS_COPIES),
  }));
  return Object.fromEntries(
    [...grouped(late, ({ mode }) => mode).values()].flatMap((same) => {
      const all = same.reduce((sum, { copies }) => sum + copies, 0);
      const middle = same.reduce((sum, { copies, shift }) => sum + copies * shift, 0) / all;
      return same.map(({ source, copies, shift }) => [source, { shift: shift - middle, copies }]);
    }),
  );
}

const NONE = { n: 0, sum: 0 };

/** How each adult marks: signs against the times, and numbers against numerals that children only had to copy. */
export function adultsOf(states: readonly ChildState[], children: readonly ChildData[]): ClassValues['adults'] {
  const signs = tallied(states.map((s) => s.sums.signs));
  const marked = tallied(children.map((c) => c.markedCopies));
  return Object.fromEntries(
    [...new Set([...signs.keys(), ...marked.keys()])].map((adult) => {
      const [right, wrong] = [signs.get(adult) ?? NONE, marked.get(adult) ?? NONE];
      const trust = (GUESS_SIGNS * USUAL_MARKING.trust + right.sum) / (GUESS_SIGNS + right.n);
      const slips = (GUESS_MARKED * SLIPS + wrong.sum) / (GUESS_MARKED + wrong.n);
      return [adult, { trust, slips, signs: right.n, copies: wrong.n }];
    }),
  );
}
