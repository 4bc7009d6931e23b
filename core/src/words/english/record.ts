import type { Aid, AnswerMode, Explanation, Flag, Help, Sign } from '../../record/response';

/** How a child answered. */
export const modes: Readonly<Record<AnswerMode, string>> = {
  tap: 'tapped by the child',
  spoken: 'spoken, with an adult stopping the clock',
  build: 'built',
  show: 'shown with fingers or a card',
  write: 'written',
  pad: 'pressed on an answer pad',
  voice: 'spoken, heard by the voice key',
};

/** The same, short: only where it says something about the time. */
export const briefly: Readonly<Partial<Record<AnswerMode, string>>> = {
  spoken: 'spoken',
  pad: 'answer pad',
  voice: 'voice key',
};

export const aids: Readonly<Record<Aid, string>> = {
  none: '',
  objects: 'with objects',
  picture: 'with a picture',
  prompt: 'with a prompt',
  'second-look': 'second look',
};

export const flags: Readonly<Record<Flag, string>> = {
  hidden: 'page hidden',
  blurred: 'page not in front',
  paused: 'paused',
  'dropped-frame': 'missed a frame',
  'exposure-off': 'shown too long or too short',
  'slow-handler': 'timed late',
  early: 'too early',
  remarked: 'entered again',
  heard: 'heard from another child just before',
};

export const signs: Readonly<Record<Sign, string>> = {
  knew: 'knew it',
  derived: 'worked it out',
  counted: 'counted',
  guessed: 'guessed',
};

/** How a child said that they saw it or worked it out. */
export const explanations: Readonly<Record<Explanation, string>> = {
  'five-and': 'five and some',
  double: 'a double',
  'one-more': 'one more',
  'one-less': 'one less',
  'count-on': 'counted on',
  turned: 'turned it round',
  'from-ten': 'from ten',
};

/** What helped after a first answer. */
export const helps: Readonly<Record<Help, string>> = {
  'look-again': 'show it again',
  'frame-under': 'frame under it',
  'count-together': 'count together',
  'take-one-off': 'take some off',
  'count-on': 'count on',
};

/** Finer signs that Vane itself offers; others are shown as they are written. */
export const finerSigns: Readonly<Record<string, string>> = { fingers: 'fingers', lips: 'lips moved' };
