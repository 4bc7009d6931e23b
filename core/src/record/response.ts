import type { FactKind } from '../facts/fact';

/**
 * How the child answers, each with a hand time of its own: taps, speaks, builds on a frame, shows fingers, writes, presses a button of an answer pad, or speaks to a voice key. `marked`: an adult
 * marks the answer once the clock has stopped. `clock`: who stops it. `by`: what the child answers with. `chosen`: for any question on the carpet; built answers come with their questions.
 */
const MODES = {
  tap: { marked: false, clock: 'device', by: 'hands', chosen: true },
  spoken: { marked: true, clock: 'adult', by: 'speech', chosen: true },
  build: { marked: false, clock: 'device', by: 'hands', chosen: false },
  show: { marked: true, clock: 'adult', by: 'hands', chosen: true },
  write: { marked: true, clock: 'adult', by: 'writing', chosen: true },
  pad: { marked: false, clock: 'device', by: 'hands', chosen: true },
  voice: { marked: true, clock: 'device', by: 'speech', chosen: true },
} as const;
export type AnswerMode = keyof typeof MODES;
export const ANSWER_MODES = Object.keys(MODES) as readonly AnswerMode[];
export type ChosenMode = { [M in AnswerMode]: (typeof MODES)[M]['chosen'] extends true ? M : never }[AnswerMode];
export const CHOSEN_MODES = ANSWER_MODES.filter((mode): mode is ChosenMode => MODES[mode].chosen);

/** True where an adult marks what the child answered, once the clock has stopped. */
export const adultMarks = (mode: AnswerMode): boolean => MODES[mode].marked;

/** True where the child needs neither to speak nor to write. */
export const answersByHand = (mode: AnswerMode): boolean => MODES[mode].by === 'hands';

export const OUTCOMES = ['correct', 'wrong', 'none'] as const;
export type Outcome = (typeof OUTCOMES)[number];

export const AIDS = ['none', 'objects', 'picture', 'prompt', 'second-look'] as const;
/** What help was there. */
export type Aid = (typeof AIDS)[number];

export const SIGNS = ['knew', 'derived', 'counted', 'guessed'] as const;
/** The strategy which an adult's sign names. */
export type Sign = (typeof SIGNS)[number];

export const FLAGS = [
  'hidden',
  'blurred',
  'paused',
  'dropped-frame',
  'exposure-off',
  'slow-handler',
  'early',
  'remarked',
  'heard',
] as const;
/**
 * Why a measured time or exposure may not be what it seems. A flagged response is kept and shown, and never judged silently.
 * hidden, blurred: the page lost sight or focus; paused: the adult paused; dropped-frame: the screen missed a frame while the show was on;
 * exposure-off: on screen for more than one frame longer or shorter than asked; slow-handler: the press was handled over 50 ms late;
 * early: sooner than a child can react; remarked: answered again after an undo, so the time is not known; heard: the same fact, or it turned round, was answered aloud a little earlier.
 */
export type Flag = (typeof FLAGS)[number];

export const HELPS = ['look-again', 'frame-under', 'count-together', 'take-one-off', 'count-on'] as const;
/** What the adult did once a first answer was not right. */
export type Help = (typeof HELPS)[number];

export const EXPLANATIONS = ['five-and', 'double', 'one-more', 'one-less', 'count-on', 'turned', 'from-ten'] as const;
/** How a child said that they saw or worked out an answer: five and some, a double, one more, one less, counting on, the fact turned round, or from ten. */
export type Explanation = (typeof EXPLANATIONS)[number];

/**
 * One answer of one child: the record's row (docs/formats.md). Times in milliseconds; null = not observed, because the child gave no answer,
 * because nothing was shown for a limited time, or because the row came from a source that did not measure.
 */
export interface Response {
  readonly id: string;
  readonly child: string;
  readonly sitting: string;
  /** Milliseconds since 1970-01-01 UTC at which the question appeared. */
  readonly shownAt: number;
  readonly kind: FactKind;
  readonly fact: string;
  readonly answerMode: AnswerMode;
  readonly exposureMs: number | null;
  readonly responseMs: number | null;
  /** What the child answered, as text; empty for no answer. */
  readonly given: string;
  readonly outcome: Outcome;
  /** The adult's sign, null when none was seen. */
  readonly sign: Sign | null;
  readonly finerSigns: readonly string[];
  readonly aid: Aid;
  /** Why this answer does not count; empty when it does. */
  readonly void: string;
  readonly flags: readonly Flag[];
  /** How the child said they did it, where they were asked; null = not asked, or none of these. */
  readonly explanation: Explanation | null;
  /** What helped after the first answer, in order; the first answer stays as it was given. */
  readonly help: readonly Help[];
  /** What the child answered after the help; empty = they were not asked again. */
  readonly secondAnswer: string;
  /** Who marked it, as a code that is the same for one adult; empty = not known. */
  readonly markedBy: string;
  /** Which device took the time, as a code that is the same for one device; empty = not known. */
  readonly device: string;
}

/** An adult as a response names who marked it: the same for one adult, and no name. @param adultId a UUID, whose end is random */
export const codeOfAdult = (adultId: string): string => adultId.slice(-8);

/**
 * What a time went through, beside the child: the adult who stopped the clock, or the device that was pressed. Each has a delay of its own. The mode alone where that is not known.
 */
export function sourceOf({
  answerMode,
  markedBy,
  device,
}: Pick<Response, 'answerMode' | 'markedBy' | 'device'>): string {
  const who = MODES[answerMode].clock === 'adult' ? markedBy : device;
  return who === '' ? answerMode : `${answerMode} ${who}`;
}

/** What a response has when nothing was added to its answer. */
export const NOTHING_ADDED = {
  sign: null,
  finerSigns: [],
  aid: 'none',
  void: '',
  flags: [],
  explanation: null,
  help: [],
  secondAnswer: '',
  markedBy: '',
  device: '',
} as const satisfies Partial<Response>;

/** `observed` of the record: a sign, and after a colon the finer signs seen, separated by spaces. Finer signs alone stand after a bare colon. */
export function observedText(response: Pick<Response, 'sign' | 'finerSigns'>): string {
  const finer = response.finerSigns.join(' ');
  return finer === '' ? (response.sign ?? '') : `${response.sign ?? ''}:${finer}`;
}

/** Reads `observed`; null when it names no known sign. */
export function parseObserved(text: string): { sign: Sign | null; finerSigns: string[] } | null {
  const [head = '', ...rest] = text.trim().split(':');
  const sign = SIGNS.find((known) => known === head) ?? null;
  if (head !== '' && sign === null) return null;
  return {
    sign,
    finerSigns: rest
      .join(':')
      .split(/[\s:]+/)
      .filter((s) => s !== ''),
  };
}
