import type { ChildJudgement } from '../reading/judgeChild';
import { isOpen, READING_WORDS, type Reading, type ReadingWord } from '../reading/reading';
import { brier, calibrationError, type Judged01 } from './score';

/** A fact's reading with what is true of it. */
export interface Checked {
  readonly reading: Reading;
  readonly retrieveShare: number;
  readonly isKnown: boolean;
}

/** Truth against readings, as a rehearsal shows it. */
export interface Review {
  readonly facts: number;
  readonly known: number;
  /** By word: how many facts were read so, and how many of them are actually known. */
  readonly words: readonly { readonly word: ReadingWord; readonly facts: number; readonly known: number }[];
  /** By probability said, in tenths: how many facts, what was said on average, how often it was so. */
  readonly bands: readonly {
    readonly from: number;
    readonly facts: number;
    readonly said: number;
    readonly true: number;
  }[];
  /** By number of answers: how many facts, how many settled (any word but "in between" and "too few answers"), how many of these rightly. */
  readonly byAnswers: readonly {
    readonly from: number;
    readonly to: number;
    readonly facts: number;
    readonly settled: number;
    readonly right: number;
  }[];
  readonly brier: number | null;
  readonly calibration: number | null;
  /** Settled but wrong, the surest first. */
  readonly errors: readonly Checked[];
}

/** A fact is known when it is retrieved at least so often. */
const KNOWN_SHARE = 0.8;
const ANSWERS = [
  [1, 1],
  [2, 2],
  [3, 4],
  [5, 7],
  [8, Infinity],
] as const;
const MOST_ERRORS = 12;

/** A settled reading is right when it says "knows" of a known fact, or something else of one that is not. */
const isRight = ({ reading, isKnown }: Checked): boolean => (reading.reading === 'knows') === isKnown;

export function review(
  judgements: readonly ChildJudgement[],
  truth: readonly { readonly child: string; readonly fact: string; readonly retrieveShare: number }[],
): Review {
  const shares = new Map(truth.map((t) => [`${t.child} ${t.fact}`, t.retrieveShare]));
  const checked = judgements.flatMap(({ readings }) =>
    readings.flatMap((reading): Checked[] => {
      const retrieveShare = shares.get(`${reading.child} ${reading.fact}`);
      return retrieveShare === undefined ? [] : [{ reading, retrieveShare, isKnown: retrieveShare >= KNOWN_SHARE }];
    }),
  );
  const count = (some: readonly Checked[]): number => some.filter((c) => c.isKnown).length;
  const settled = checked.filter((c) => !isOpen(c.reading.reading));
  const said = checked.map((c): Judged01 => ({ p: c.reading.pAutomatic, truth: c.isKnown }));
  return {
    facts: checked.length,
    known: count(checked),
    words: READING_WORDS.map((word) => {
      const own = checked.filter((c) => c.reading.reading === word);
      return { word, facts: own.length, known: count(own) };
    }),
    bands: Array.from({ length: 10 }, (_, i) => {
      const own = checked.filter((c) => Math.min(9, Math.floor(c.reading.pAutomatic * 10)) === i);
      const mean = own.length === 0 ? 0 : own.reduce((sum, c) => sum + c.reading.pAutomatic, 0) / own.length;
      return { from: i / 10, facts: own.length, said: mean, true: own.length === 0 ? 0 : count(own) / own.length };
    }),
    byAnswers: ANSWERS.map(([from, to]) => {
      const own = checked.filter((c) => c.reading.responses >= from && c.reading.responses <= to);
      const done = own.filter((c) => settled.includes(c));
      return { from, to, facts: own.length, settled: done.length, right: done.filter(isRight).length };
    }),
    brier: brier(said),
    calibration: calibrationError(said),
    errors: settled
      .filter((c) => !isRight(c))
      .sort(
        (a, b) =>
          Math.abs(b.reading.pAutomatic - 0.5) - Math.abs(a.reading.pAutomatic - 0.5) ||
          (a.reading.fact < b.reading.fact ? -1 : 1),
      )
      .slice(0, MOST_ERRORS),
  };
}
