import { DEFAULT_CARPET, type CarpetSettings } from '@vane/contract';
import { CHOSEN_MODES, OPTION_NAMES, USUAL_OPTIONS, type Choice, type ChosenMode, type Routine } from '@vane/core';
import { carpetWords } from '../../language/carpetWords';
import { words } from '../../language/words';
import { usualCards } from './setUps';

type Times = readonly { readonly ms: number | null; readonly words: string }[];

export const EXPOSURES: Times = [
  { ms: 200, words: '0.2 s' },
  { ms: 350, words: '0.35 s' },
  { ms: 500, words: '0.5 s' },
  { ms: 750, words: '0.75 s' },
  { ms: 1000, words: '1 s' },
  { ms: 1500, words: '1.5 s' },
  { ms: 2000, words: '2 s' },
  { ms: 3000, words: '3 s' },
  { ms: null, words: $localize`until answered` },
];

/** How long the ready before a show is. */
export const READIES: Times = [
  { ms: null, words: $localize`by hand` },
  { ms: 1000, words: '1 s' },
  { ms: 2000, words: '2 s' },
  { ms: 3000, words: '3 s' },
  { ms: 5000, words: '5 s' },
];

const MODE_WORDS: Readonly<Record<ChosenMode, { readonly words: string; readonly why: string }>> = {
  tap: {
    words: $localize`the child taps`,
    why: $localize`The numbers are in view from the start, so finding one takes the same time every time.`,
  },
  spoken: {
    words: $localize`says it, you enter it`,
    why: $localize`Press Space, or the wide button, the moment the child speaks; then enter the number. Vane allows for your own delay.`,
  },
  show: {
    words: $localize`shows fingers, you enter it`,
    why: $localize`Press when the fingers are up, then enter the number. Fingers are an answer here, not a sign of counting.`,
  },
  write: {
    words: $localize`writes it, you enter it`,
    why: $localize`Press when the child begins to write, then enter the number. A reversed numeral is a writing slip, not a wrong number.`,
  },
  pad: {
    words: $localize`presses an answer pad`,
    why: $localize`Eleven buttons, 0 to 10: a controller or keyboard in front of the child, or the simulated pad. Vane allows for its delay.`,
  },
  voice: {
    words: $localize`speaks to the voice key`,
    why: $localize`The microphone notices when the child begins, by loudness alone, and stops the clock; you enter what was said. Nothing is recorded or sent. There is a simulated voice to try it with.`,
  },
};
export const MODES = CHOSEN_MODES.map((mode) => ({ mode, ...MODE_WORDS[mode] }));

export const SCREEN_WORDS: Record<CarpetSettings['screens'], { readonly words: string; readonly why: string }> = {
  one: {
    words: $localize`one screen`,
    why: $localize`The stage and your controls are side by side. The children see your part too: the question stands there, and what tells an answer stays hidden until you hold h, or the button. Two screens are better.`,
  },
  two: {
    words: $localize`a board`,
    why: $localize`The board shows only the picture. You enter answers here. A code joins the two.`,
  },
  alone: {
    words: $localize`the child on a tablet`,
    why: $localize`The child starts each question themselves and answers by tapping or building. You see each answer, and can enter, pause and end.`,
  },
};

const timeWords = (all: Times, ms: number | null): string => all.find((one) => one.ms === ms)?.words ?? `${ms} ms`;

/** What a routine would be run with otherwise than usual, each in a few words: what can be left folded away says so. */
export function differences(form: CarpetSettings, routine: Routine): string[] {
  const usual = DEFAULT_CARPET;
  const has = (choice: Choice): boolean => routine.choices.includes(choice);
  const all: (string | false)[] = [
    has('layout') && form.layout !== usual.layout && words.layouts[form.layout],
    has('exposure') &&
      form.exposureMs !== usual.exposureMs &&
      $localize`shown for ${timeWords(EXPOSURES, form.exposureMs)}`,
    form.readyMs !== usual.readyMs && $localize`ready ${timeWords(READIES, form.readyMs)}`,
    has('wholes') &&
      (form.numbers === 'own'
        ? $localize`each child’s own number`
        : (form.wholeFrom !== usual.wholeFrom || form.wholeTo !== usual.wholeTo) &&
          (form.wholeFrom === form.wholeTo
            ? $localize`number ${form.wholeFrom}`
            : $localize`numbers ${form.wholeFrom} to ${form.wholeTo}`)),
    ...OPTION_NAMES.map(
      (name) =>
        has(name) &&
        form.options[name] !== USUAL_OPTIONS[name] &&
        (carpetWords.options[name].values as Readonly<Record<string, string>>)[form.options[name]]!,
    ),
    has('length') && form.shows !== usualCards(form.routine) && $localize`${form.shows} cards`,
    has('zero') && form.zeroToo && $localize`zero included`,
    has('exposure') && !form.secondLook && $localize`no second look`,
    form.screens !== usual.screens && SCREEN_WORDS[form.screens].words,
  ];
  return all.filter((one) => one !== false);
}
