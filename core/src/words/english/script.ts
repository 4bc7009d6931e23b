import { factInPrint } from '../../facts/fact';
import { USUAL_WORDS } from '../../routines/classWords';
import type { Picture } from '../../routines/picture';
import { helpPicture, sayWith } from '../../routines/reply';
import type { Ask } from '../../routines/routine';
import type { Outcome, ScriptLine } from '../../routines/script';
import type { RoutineId } from '../../routines/routineIds';
import { mistakes } from './evidence';
import { fact, pictures } from './facts';
import { prompt } from './prompts';
import { helps } from './record';
import { routines } from './routines';

const say = (said: Parameters<typeof prompt>[0]): string => prompt(said, USUAL_WORDS);

/** What stands on the stage, for a reader. */
function inView(picture: Picture): string {
  switch (picture.show) {
    case 'frame':
      return `a ${picture.layout === 'five' ? 'five' : 'ten'} frame with ${picture.count}`;
    case 'frame-anywhere':
      return `a frame with ${picture.boxes.length}, anywhere`;
    case 'up-to':
      return `a frame with ${picture.first}, a ring round ${picture.whole}`;
    case 'crossed-off':
      return `a frame with ${picture.count}, ${picture.gone} crossed off`;
    case 'moved-out':
      return `a frame, ${picture.gone} of ${picture.count} moved out`;
    case 'two-part':
      return `a frame with ${picture.first} and ${picture.second}, of two kinds`;
    case 'two-frames':
      return `two frames with ${picture.first} and ${picture.second}`;
    case 'spots':
      return picture.layout === 'fingers' ? `hands with ${picture.count} fingers up` : `${picture.count} spots`;
    case 'scatter':
      return `${picture.count} scattered`;
    case 'sets':
      return `${inView(picture.left)}; beside it ${inView(picture.right)}`;
    case 'groups':
      return `${picture.count} groups of ${picture.of}`;
    case 'row':
      return rowInView(picture);
    case 'stick':
      return picture.hidden
        ? `a stick: ${picture.first} in view, the rest hidden`
        : `a stick of ${picture.first} and ${picture.second}`;
    case 'trays':
      return `two trays with ${picture.first} and ${picture.second}`;
    case 'halves':
      return picture.covered
        ? `a domino: ${picture.first}, one half covered`
        : `a domino of ${picture.first} and ${picture.second}`;
    case 'die':
      return `a dice with ${picture.face}, and the number ${picture.whole}`;
    case 'ways':
      return picture.ways.length === 0
        ? `the board for ${picture.whole}, empty`
        : `the board for ${picture.whole}: ${picture.ways.map((pair) => (pair ? pair.join(' + ') : '…')).join(', ')}`;
    case 'numeral':
      return `the number ${picture.n}`;
    case 'sentence':
      return `${factInPrint(picture.fact)}${picture.over ? ` over ${inView(picture.over)}` : ''}`;
    case 'sentences':
      return picture.lines.map(factInPrint).join(' · ');
    case 'part-whole': {
      const { whole, first, second } = picture;
      return `a part-whole picture: ${whole ?? '?'} over ${first ?? '?'} and ${second ?? '?'}`;
    }
    case 'nothing':
    case 'counter':
      return pictures[picture.show];
  }
}

function rowInView({ count, cuts, side }: Extract<Picture, { show: 'row' }>): string {
  const cut = cuts[0];
  if (cut === undefined) return `a row of ${count}`;
  return `a row of ${count}, cut after ${cut}${side ? `, the ${side} side marked` : ''}`;
}

/** What is seen while the question is open, and afterwards. */
function seen({ picture, flash, want, changes }: Ask): string {
  const own =
    want.by === 'board' ? (want.plan.keeps ? '; the child’s own frame stays' : '; the child’s own frame') : '';
  if (flash) return `${inView(picture)}, for a moment, then covered${own}`;
  if (picture.show === 'nothing' || picture.show === 'counter')
    return want.by === 'board' ? 'the child’s own frame' : '';
  return `${inView(picture)}${changes ? ', changed and never cleared' : ''}, until the next question${own}`;
}

const outcomeWords = (outcome: Outcome, given: string, checksItself: boolean): string => {
  if (checksItself) return 'whatever it is';
  if (outcome === 'none') return 'no answer';
  const answer = given.includes('+') || given.includes('-') ? factInPrint(given) : given;
  if (outcome === 'right') return `${answer}`;
  return outcome === 'wrong' ? `${answer}, not it` : `${answer}, ${mistakes[outcome]}`;
};

/** One question as plain lines. */
function lineOf({ ask, answers }: ScriptLine): string[] {
  const picture = seen(ask);
  const helpLines = new Map(
    answers.flatMap(({ given, reply }) =>
      reply.helps.map((help): [string, string] => {
        const laid = help === 'frame-under' ? helpPicture(ask, help) : null;
        return [help, `${helps[help]}: ${say(sayWith(ask, given, help))}${laid ? ` (${inView(laid)})` : ''}`];
      }),
    ),
  );
  return [
    ...(picture ? [`  In view: ${picture}.`] : []),
    `  ${say(ask.prompt)}`,
    ...(ask.note ? [`  For you: ${say(ask.note)}`] : []),
    ...answers.map(
      ({ outcome, given, reply }) =>
        `    ${outcomeWords(outcome, given, ask.checksItself)} → ${say(reply.say)}${reply.then ? ` ${say(reply.then)}` : ''}`,
    ),
    ...[...helpLines.values()].map((line) => `    ${line}`),
    ...(ask.fact === null ? [] : [`  Recorded: ${fact(ask.fact)}${ask.aid === 'none' ? '' : ` (${ask.aid})`}`]),
  ];
}

/** A routine as it is played: what is in view, what is said, what each answer is met with, what is recorded. */
export const scriptInWords = (id: RoutineId, lines: readonly ScriptLine[]): string =>
  [routines[id].title, routines[id].about, ...lines.flatMap((line, i) => ['', `${i + 1}.`, ...lineOf(line)])].join(
    '\n',
  );
