export { classHandOver, evening } from './parents';
import type { AnswerMode } from '../../record/response';
import type { Words } from '../../routines/classWords';
import { factAloud } from './prompts';
import { modes } from './record';
import { counted, formOf, some } from './numbers';

/** Everything that can be printed. */
export const names = {
  'flash-cards': {
    title: 'Flash cards',
    says: 'An amount on each, in every layout you choose, beads and fingers too. The numeral on the back.',
  },
  'pair-cards': {
    title: 'Two-part cards',
    says: 'Every way to make the numbers you choose, in two kinds of counters on a frame. The sentence on the back.',
  },
  'crossed-off-cards': {
    title: 'Crossed-off cards',
    says: 'A frame with some crossed off. The take-away sentence on the back.',
  },
  dominoes: { title: 'Dominoes', says: 'All dominoes with the totals you choose. The total on the back.' },
  'sentence-cards': {
    title: 'Number sentence cards',
    says: 'Sentences with a gap where your class has it: at the end only, or anywhere. The answer on the back, and an answer sheet.',
  },
  mats: { title: 'Mats', says: 'Frames and part-whole mats to put things on, one to a page.' },
  'fill-and-write': {
    title: 'Fill and write',
    says: 'One part is on the frame; the child draws the other and writes it.',
  },
  'all-the-ways': { title: 'All the ways', says: 'One open line for each way, by your class’s own counting rule.' },
  'home-sheet': {
    title: 'Home sheet',
    says: 'For one family: games with the child’s own number. No scores, no other child.',
  },
  'hand-over': {
    title: 'Hand-over',
    says: 'What the record says about one child, for the next teacher, and what it cannot say.',
  },
  evening: {
    title: 'For a parents’ evening',
    says: 'What one child knows, is learning, and can play at home, in plain words. No times, no scores, no other child.',
  },
  'class-hand-over': {
    title: 'Class hand-over',
    says: 'For the next teacher of the class: for each child, by name, the working number, what is known and what comes next.',
  },
  'group-sheet': {
    title: 'Group sheet',
    says: 'For a helper, on paper or on a phone: what each child is asked, with a space for the answer. Enter answers on paper afterwards.',
  },
};

export const mats = {
  five: 'five frame',
  ten: 'ten frame',
  'two-tens': 'two ten frames',
  'part-whole': 'part-whole mat',
  'three-parts': 'three-part mat',
};

/** Words on drawn pages. */
export const sheet = {
  care: 'Before you use this with children',
  answers: 'Answers',
  answersMark: 'answers',
  nickname: 'nickname',
  fillAndWrite: (words: Words, whole: number) => `Fill the ${words.frame} up to ${whole}, then write`,
  allTheWays: (whole: number) => `All the ways to make ${whole}`,
  countedHere: (rule: string, ways: number) => `Counted here: ${rule}. That makes ${counted.ways(ways)}.`,
};

/** For one family. */
export const home = {
  title: (nickname: string, n: number) => `${nickname} plays with ${n}`,
  inClass: (n: number, first: number, words: Words) =>
    `In class we are looking at the ways to make ${n}, such as “${factAloud(`${first}+${n - first}`, words).replace('what?', String(n))}”. A few minutes at home, when you both feel like it, help more than a long time.`,
  toPlay: 'Games to play',
  games: (n: number, nickname: string, words: Words) => [
    `Hide some. Put ${n} small things on the table and look at them together. Cover some with a cup. How many are under the cup? Lift it and see.`,
    n > 5
      ? 'Look and cover. Put some of them in a row of five and the rest below. Look, cover, and ask: how many did you see? How did you see them?'
      : 'Look and cover. Put some of them in a row. Look, cover, and ask: how many did you see? How did you see them?',
    `Fingers. Show ${n} fingers all at once. Fold some down: how many are folded, how many are still up?`,
    `Snap the stick. Join ${n} bricks. Snap the stick in two: ${words.part} ${words.plus} ${words.part}. Put it together and snap it somewhere else.`,
    `Your turn to ask. Let ${nickname} hide some and ask you. Think aloud, and be wrong now and then.`,
    ...(n > 2 ? [`Keep the smaller numbers warm: now and then play the same with ${n - 1} or fewer.`] : []),
  ],
  safe: 'Keeping it a game',
  rules: (words: Words, objects: string) => [
    'Counting one by one is fine: count together, then look again.',
    'No clock, no race, no marks, no comparing with others. Stop while it is still fun.',
    objects,
    `Use our words: “${words.whole}” for all of them, “${words.part}” for some of them, “${words.plus}” and “${words.equals}”.`,
  ],
};

/** For the next teacher. */
export const handOver = {
  title: (nickname: string) => `Hand-over: ${nickname}`,
  stands: (today: string) => `The record on ${today}.`,
  support: 'Adjustments',
  seeing: 'Seeing',
  adding: 'Adding',
  missing: 'Missing part',
  takingAway: 'Taking away',
  run: (from: number, to: number) => `${from} to ${to}`,
  tooFew: (n: number) => `${some(n, 'more fact has', 'more facts have')} too few answers to say.`,
  howTested: 'How it was tested',
  nothing: 'Nothing has been asked yet.',
  mode: (mode: AnswerMode, answers: number) => `${modes[mode]} (${answers})`,
  tested: (answers: number, days: number, from: string, to: string, modes: readonly string[]) =>
    `${answers} ${formOf(answers, 'answer', 'answers')} on ${days} ${formOf(days, 'day', 'days')}, from ${from} to ${to}: ${modes.join(', ')}.`,
  helped: (n: number) =>
    `${n} of them ${formOf(n, 'was', 'were')} given with help and not judged. A fact is called known when it was answered correctly several times, on different days, in the time this child takes to remember rather than to count.`,
  ownWord: 'The teacher’s own judgement',
  ownHead: ['Fact', 'Reading', 'Why', 'By'],
  cannot: 'What it cannot say',
  limits:
    'Times tell counting from knowing only where counting takes clearly longer: for “one more” only asking can tell. Children who wait, are tired or answer in another language may look slower than they are. ' +
    'It says nothing about what was not asked, and what was known may have faded since. It is not a diagnosis and not a label: ask again before you rely on it.',
};

/** For a helper without a device. */
export const group = {
  title: (className: string, code: string) => `${className}: group sheet ${code}`,
  made: (today: string) => `Made on ${today}. Asked on __________ by __________.`,
  how: [
    'One child at a time; the others wait or build.',
    'Write the first answer, whatever comes after.',
    'Tick the small box if you saw or heard counting. Leave the line empty if the child was not asked.',
    'No hurry, no comparing.',
  ],
  opens: (routine: string) =>
    `First, everybody together, two minutes. ${routine} Everybody answers at once; nothing of this is written down.`,
  part: (title: string, minutes: number) => `${title}, ${counted.minutes(minutes)}`,
  closes: (routine: string) => `Last, two minutes. ${routine}`,
  turns: (words: Words) => [
    'In turn, from left to right, line by line. No hurry, no comparing.',
    `C: draw or build it on the ${words.frame}, show it for a moment, cover it, then ask. V: leave it in view.`,
    'Write the first answer, whatever comes after.',
    'Tick the small box if you saw or heard counting.',
  ],
  dots: (n: string) => `${n} dots`,
  put: (fact: string, form: 'covered' | 'in view' | 'plain') =>
    form === 'covered' ? `${fact} · C` : form === 'in view' ? `${fact} · V` : fact,
  after: 'Afterwards: Prints, Group sheet, “Enter answers”. Papers with names: your setting’s rules.',
};
