import { explained, type Timed } from '../latency/fit';
import { handOffsets, OFFSETS } from '../latency/handChain';
import { StrategyTimes, type ChildTimes } from '../latency/times';
import { softmax } from '../statistics/softmax';
import { grouped } from '../statistics/grouped';
import type { AnswerMode, Response } from '../record/response';
import { sittingKey, type ChildData } from './childData';
import type { ClassValues } from './classValues';

/** How a child's hand differs from its usual time (docs/model.md, "A hand that changes"): logarithms. */
export interface Hands {
  /** By answer mode and sitting: by how much the hand was off. */
  readonly offsets: ReadonlyMap<AnswerMode, ReadonlyMap<number, number>>;
  /** By how much it rises from the beginning of a sitting to its end. */
  readonly tiring: number;
}
export const EVEN_HANDS: Hands = { offsets: new Map(), tiring: 0 };

/** Shifts are told apart so finely, and no finer: answers of one shift share their densities. */
const STEPS_OF_SHIFT = 20;
const stepped = (shift: number, steps: number): number => Math.round(steps * shift) / steps;

const ofSource = ({ source }: Timed, { sources }: ClassValues): number => sources[source]?.shift ?? 0;
const ofSitting = ({ mode, sitting }: Timed, { offsets }: Hands): number => offsets.get(mode)?.get(sitting) ?? 0;
/** Half way through a sitting is the usual time. */
const HALF_WAY = 0.5;

/** By how much later than the child's usual hand time an answer came: through whom or what it went, in which sitting, and how far into it. */
export const shiftOf = (t: Timed, hands: Hands, values: ClassValues): number =>
  stepped(ofSource(t, values) + ofSitting(t, hands) + hands.tiring * (t.within - HALF_WAY), STEPS_OF_SHIFT);

/** The offsets of the sittings in one answer mode. */
function offsetsOf(
  mode: AnswerMode,
  timed: readonly Timed[],
  times: ChildTimes,
  values: ClassValues,
): ReadonlyMap<number, number> {
  const sittings = [...new Set(timed.map(({ sitting }) => sitting))].sort((a, b) => a - b);
  const place = new Map(sittings.map((sitting, i) => [sitting, i]));
  const answers = sittings.map(() => 0);
  const logs = new Float64Array(sittings.length * OFFSETS.length);
  for (const own of grouped(timed, ({ source }) => source).values()) {
    const shift = ofSource(own[0]!, values);
    const shifted = OFFSETS.map((offset) => new StrategyTimes(times, mode, shift + offset));
    for (const t of own) {
      const at = place.get(t.sitting)!;
      answers[at]!++;
      const logSeconds = Math.log(t.seconds);
      for (let k = 0; k < shifted.length; k++) logs[at * OFFSETS.length + k]! += explained(t, shifted[k]!, logSeconds);
    }
  }
  const offsets = handOffsets(logs, answers);
  return new Map(sittings.map((sitting, i) => [sitting, offsets[i]!]));
}

/** Rises that are tried, with what is usual before the answers: hardly any. */
const RISES = [-0.3, 0, 0.3, 0.6, 0.9] as const;
const USUAL_RISE = { mean: 0.05, sd: 0.25 };
const STEPS_OF_RISE = 10;

/** Expected rise of the hand within a sitting, given the offsets between them. */
function tiringOf(data: ChildData, hands: Hands, times: ChildTimes, values: ClassValues): number {
  const logs = RISES.map((rise) => -0.5 * ((rise - USUAL_RISE.mean) / USUAL_RISE.sd) ** 2);
  for (const [mode, timed] of data.byMode) {
    const made = new Map<number, StrategyTimes>();
    const shiftedBy = (shift: number): StrategyTimes => {
      let own = made.get(shift);
      if (!own) made.set(shift, (own = new StrategyTimes(times, mode, shift)));
      return own;
    };
    for (const t of timed) {
      const usual = ofSource(t, values) + ofSitting(t, hands);
      const logSeconds = Math.log(t.seconds);
      RISES.forEach((rise, k) => {
        const shift = stepped(usual + rise * (t.within - HALF_WAY), STEPS_OF_RISE);
        logs[k]! += explained(t, shiftedBy(shift), logSeconds);
      });
    }
  }
  return softmax(logs).reduce((sum, p, k) => sum + p * RISES[k]!, 0);
}

/** A child's hands from sitting to sitting and within them, by the times and strategy weights that are known now. */
export function handsOf(data: ChildData, times: ChildTimes, values: ClassValues): Hands {
  const offsets = new Map([...data.byMode].map(([mode, timed]) => [mode, offsetsOf(mode, timed, times, values)]));
  return { offsets, tiring: tiringOf(data, { offsets, tiring: 0 }, times, values) };
}

/** By answer mode and sitting (`sittingKey`): by how much the hand was off its usual time (logarithm), where it was. */
export type HandOffsets = Readonly<Partial<Record<AnswerMode, Readonly<Record<string, number>>>>>;

/** From here on a hand is another than the usual one (logarithm): slower or quicker by a fifth. */
export const ANOTHER_HAND = 0.18;
/** An offset as small as this is none. */
const NO_OFFSET = 0.1;

/** The offsets that are worth telling, by the names of the sittings. */
export const tellingOffsets = ({ offsets }: Hands, { sittings }: ChildData): HandOffsets =>
  Object.fromEntries(
    [...offsets].map(([mode, bySitting]) => [
      mode,
      Object.fromEntries(
        [...bySitting]
          .filter(([, offset]) => Math.abs(offset) >= NO_OFFSET)
          .map(([place, offset]) => [sittings[place]!, Math.round(100 * offset) / 100]),
      ),
    ]),
  );

/** By how much the hand was off when this was answered (logarithm). */
export const offsetAt = (hands: HandOffsets, r: Response): number => hands[r.answerMode]?.[sittingKey(r)] ?? 0;
