import { ANSWER_MODES, type AnswerMode } from '../record/response';
import type { ClassValues } from './classValues';

/** What Vane has learned of how an adult or a device measures, from children of a class. */
export type HowMeasured =
  /** Delay of answers in this mode against other adults or devices, in milliseconds (negative = sooner), and the number of copied numerals behind it. */
  | {
      readonly what: 'late';
      readonly by: 'adult' | 'device';
      readonly mode: AnswerMode;
      readonly ms: number;
      readonly copies: number;
    }
  /** Share of the adult's signs that are the true ones, from 0 to 1. */
  | { readonly what: 'signs'; readonly signs: number; readonly trust: number }
  /** Share of answers where another number was entered than the child said, from 0 to 1. */
  | { readonly what: 'slips'; readonly copies: number; readonly slips: number };

/** Least number of copied numerals or signs for a statement. */
const ENOUGH = 8;
/** Fewer wrong entries than this are not worth a word. */
const LEAST_SLIPS = 0.01;
/** Less than this is no difference, milliseconds. */
const LEAST_LATE_MS = 50;

/**
 * What is known of one adult and one device.
 * @param adult code of the adult (`markedBy`)
 * @param device code of the device
 */
export function measuringOf(values: ClassValues, adult: string, device: string): HowMeasured[] {
  const late = (by: 'adult' | 'device', who: string): HowMeasured[] =>
    ANSWER_MODES.flatMap((mode) => {
      const source = values.sources[`${mode} ${who}`];
      if (!source || source.copies < ENOUGH) return [];
      const ms = Math.round(1000 * values.times.hand.median * (Math.exp(source.shift) - 1));
      return Math.abs(ms) < LEAST_LATE_MS ? [] : [{ what: 'late', by, mode, ms, copies: source.copies }];
    });
  const own = values.adults[adult];
  return [
    ...late('adult', adult),
    ...late('device', device),
    ...(own && own.signs >= ENOUGH ? [{ what: 'signs', signs: own.signs, trust: own.trust } as const] : []),
    ...(own && own.copies >= ENOUGH && own.slips >= LEAST_SLIPS
      ? [{ what: 'slips', copies: own.copies, slips: own.slips } as const]
      : []),
  ];
}
