import { parseQuestion } from '../facts/question';
import type { LayoutName } from '../facts/fact';
import type { Counters } from '../layouts/drawn';
import type { WarmUp } from './warmUp';
import type { Random } from '../random/random';
import type { Aid, Sign } from '../record/response';
import type { BoardPlan } from './board';
import { OPTION_NAMES, USUAL_OPTIONS, type OptionName, type Options } from './options';
import type { Picture } from './picture';
import type { Prompt } from './prompt';
import type { Caution, Words } from './classWords';
import type { RoutineId } from './routineIds';

/** What counts as an answer. */
export type Want =
  /** A number up to ten, or up to twenty. */
  | { readonly by: 'number'; readonly to: 10 | 20 }
  /** One of a few words or symbols; what is given is the word itself. */
  | { readonly by: 'choice'; readonly among: readonly string[] }
  /** Counters put on a frame, or moved between two. */
  | { readonly by: 'board'; readonly plan: BoardPlan }
  /** Both parts of a pair, as `4+2`. */
  | { readonly by: 'pair' }
  /** A place between two items of a row of `count`; `cuts` cannot be cut again. */
  | { readonly by: 'cut'; readonly count: number; readonly cuts: readonly number[] }
  /** Nothing: talk, and then on. */
  | { readonly by: 'talk' };

/** One question put to a child: what stands on the stage, what is said, and the fact that the answer is recorded under. */
export interface Ask {
  /** Canonical text of the fact or question; null = what comes back is not recorded. */
  readonly fact: string | null;
  readonly picture: Picture;
  /** Shown for the time that was set, then covered; else it stays until the answer. */
  readonly flash: boolean;
  /** `picture` when the answer can be counted from what stays in view. */
  readonly aid: Aid;
  readonly want: Want;
  /** The right answers, where the fact has not just the one. */
  readonly accepts: readonly string[] | null;
  readonly prompt: Prompt;
  /** To be said once the right answer stands, and after that. */
  readonly after: Prompt;
  readonly then: Prompt | null;
  /** For the adult alone, beside the prompt; null = nothing. */
  readonly note: Prompt | null;
  readonly warmUp: boolean;
  /** Belongs to the question before it: the same child answers it, before another child's turn. */
  readonly goesOn: boolean;
  /** The picture before it stays until this one is there: counters come or go, nothing is cleared. */
  readonly changes: boolean;
  /** The child checks the answer against what comes next: nothing is said of it now. */
  readonly checksItself: boolean;
}

/** A question with its usual settings: it stays in view, is answered by a number within ten, and "how did you know?" is asked afterwards. */
export const makeAsk = (fact: string | null, picture: Picture, prompt: Prompt, more: Partial<Ask> = {}): Ask => ({
  fact,
  picture,
  flash: false,
  aid: 'none',
  want: { by: 'number', to: 10 },
  accepts: null,
  prompt,
  after: { say: 'how-known' },
  then: null,
  note: null,
  warmUp: false,
  goesOn: false,
  changes: false,
  checksItself: false,
  ...more,
});

/** Something said and shown that wants no answer. */
export const talk = (picture: Picture, prompt: Prompt): Ask =>
  makeAsk(null, picture, prompt, { want: { by: 'talk' }, after: { say: 'thanks' } });

/** Questions that belong together: the same child answers them all, one after another. */
export const chain = (asks: readonly Ask[]): Ask[] => asks.map((ask, i) => (i === 0 ? ask : { ...ask, goesOn: true }));

/** Whether an answer is right. What has no right answer, such as where to cut, is never wrong. */
export function isRight(ask: Ask, given: string): boolean {
  if (ask.accepts !== null) return ask.accepts.includes(given);
  return ask.fact === null || parseQuestion(ask.fact).answer === given;
}

/** The right answer as it is given; null where there are several, or none. */
export function rightAnswer(ask: Ask): string | null {
  if (ask.accepts !== null) return ask.accepts.length === 1 ? ask.accepts[0]! : null;
  return ask.fact === null ? null : parseQuestion(ask.fact).answer;
}

/** An answer of this sitting, as the next step of a routine needs it. */
export interface Answered {
  readonly ask: Ask;
  readonly given: string;
  readonly right: boolean;
  /** Milliseconds; null = not measured. */
  readonly responseMs: number | null;
  readonly sign: Sign | null;
}

/** Layouts in which a quantity can be shown to be seen. */
export const SEEN_LAYOUTS = [
  'five',
  'frame-fives',
  'frame-pairs',
  'dice',
  'domino',
  'mirror',
  'beads',
  'fingers',
  'line',
  'scatter',
] as const satisfies readonly LayoutName[];
export type SeenLayout = (typeof SEEN_LAYOUTS)[number];

/** How a planned fact is put, along the path: its picture in view, its picture shown and then covered, or in symbols alone. */
export const FORMS = ['picture', 'remembered', 'symbols'] as const;
export type Form = (typeof FORMS)[number];
export interface PlannedAsk {
  readonly fact: string;
  readonly form: Form;
}

/** What a routine is given to draw its questions from. */
export interface RoutineWish {
  readonly layout: SeenLayout;
  /** How many cards: numbers, pairs or sets, with all that is asked of each; without the warm-up. */
  readonly shows: number;
  readonly zeroToo: boolean;
  /** Wholes of the number facts asked. */
  readonly wholeFrom: number;
  readonly wholeTo: number;
  readonly warmUp: WarmUp;
  readonly options: Options;
  readonly things: Words['things'];
  /** What a plan proposes for this child, in order; nothing when nothing was planned. */
  readonly facts: readonly PlannedAsk[];
  /** How many children sit. */
  readonly sitters: number;
  /** The number whose pairs the child is fixing now; null = not known yet. */
  readonly workingNumber: number | null;
  /** The child's times in seconds, for adaptive routines; null = not measured yet. */
  readonly times: { readonly handSeconds: number; readonly paceSeconds: number } | null;
}

/** What lies in the boxes, by the wish. */
export const countersOf = (wish: RoutineWish): Counters => (wish.options.counters === 'things' ? wish.things : 'dots');

export type Choice = 'layout' | 'exposure' | 'zero' | 'wholes' | 'length' | OptionName;
export const ROUTINE_GROUPS = [
  'learn the frame',
  'seeing',
  'the frame and ten',
  'pairs',
  'facts',
  'three parts and past ten',
  'check and close',
] as const;
export type RoutineGroup = (typeof ROUTINE_GROUPS)[number];

/** A routine of the carpet: what can be set, and the questions it puts, in the order in which practitioners put them. */
export interface Routine {
  readonly id: RoutineId;
  readonly group: RoutineGroup;
  readonly choices: readonly Choice[];
  /** Real things are used. */
  readonly objects?: true;
  /** Talk and making, or a single question: nothing to warm up for. */
  readonly untimed?: true;
  /** How many cards a session usually has, where one card is several questions; else ten. */
  readonly usualCards?: number;
  /** All children work on one thing: each in turn adds to it, and what follows depends on what everybody said. */
  readonly shared?: true;
  /** What stands for it on the shelf, where its first questions do not show what it is. */
  readonly shelf?: Picture;
  /** Its judged questions follow from the answers: none of those with which it begins is. */
  readonly judgedLater?: true;
  /** The questions with which it begins; for most routines all of them. */
  readonly asks: (random: Random, wish: RoutineWish) => Ask[];
  /** What follows from the answers so far, when the questions put have run out; nothing more ends it. */
  readonly follow?: (soFar: readonly Answered[], random: Random, wish: RoutineWish) => Ask[];
}

/** The options as a routine uses them: what it does not offer is as usual, whatever was chosen for another. */
export const optionsFor = (routine: Routine, options: Options): Options => ({
  ...USUAL_OPTIONS,
  ...Object.fromEntries(
    OPTION_NAMES.filter((name) => routine.choices.includes(name)).map((name) => [name, options[name]]),
  ),
});

/** What a routine brings with it that can hurt: shown where it begins. */
export const cautionsOf = (routine: Routine, { help }: Options = USUAL_OPTIONS): Caution[] => [
  ...(routine.choices.includes('exposure') ? (['flash'] as const) : []),
  ...(routine.objects || (routine.choices.includes('help') && help === 'objects') ? (['objects'] as const) : []),
];
