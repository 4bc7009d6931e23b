import { factInPrint, isNumberFact, parseFact } from '../../facts/fact';
import { isFact, parseQuestion } from '../../facts/question';
import type { Words } from '../../routines/classWords';
import type { PlainPrompt, Prompt } from '../../routines/prompt';
import { outOfReach, waysTotals } from '../../routines/ways';
import { eitherOf, formOf, inLetters } from './numbers';
import { thought } from './thoughts';

/** Prompts that hold no numbers. */
const PLAIN: Record<PlainPrompt, (words: Words) => string> = {
  ready: () => '“Ready? Clear. Here it comes.”',
  copy: () => '“Which number is this?”',
  count: () => '“Count these. How many are there?”',
  'how-many-seen': () => '“How many did you see?”',
  'how-many': () => '“How many?”',
  'how-many-now': () => '“How many now?”',
  'empty-boxes': () => '“How many boxes are empty?”',
  folded: () => '“How many fingers are folded down?”',
  left: () => '“How many are left?”',
  'find-whole': (w) => `“Here are the ${w.part}s. What is the ${w.whole}?”`,
  'find-part': (w) => `“Here is the ${w.whole}, with one ${w.part}. What is the other ${w.part}?”`,
  'how-known': () => '“How did you know?”',
  thanks: () => 'Thank you.',
  boxes: (w) => `“How many boxes are in our ${w.frame}?”`,
  'start-box': () => '“Where does the first one go?”',
  'fill-empty': (w) => `“Show me zero on the ${w.frame}.”`,
  'fill-full': (w) => `“Fill the ${w.frame}. One in each box.”`,
  'build-seen': (w) => `“Put what you saw on your ${w.frame}.”`,
  'look-at-yours': () => '“Keep yours. Now look again: here it comes.”',
  'same-as-yours': () => '“Is yours the same? You can change it.”',
  'just-the-same': () => '“Just the same. Well looked!”',
  'where-start': () => '“Where do we start?”',
  'which-row': () => '“Which row do we fill first?”',
  'no-gaps': () => '“One in each box, no gaps. Can you move them together?”',
  'count-aloud': () => '“Count them out loud. How many?”',
  'count-and-dot': () => '“Count each one, a dot on each. How many?”',
  'ten-out': () => '“Ten fingers out. Now hide them behind your back.”',
  'own-pattern': () => '“Now make one of your own. How many is it?”',
  'warm-up': () => 'So that Vane learns how long an answer takes with nothing to work out. It is not judged.',
  'said-already': () => 'These were said aloud just now, so the answer is not judged.',
  'top-row': () => '“How many in the top row?”',
  'lower-row': () => '“How many in the bottom row?”',
  'in-all': () => '“How many altogether?”',
  'one-more': () => '“One more comes. How many now?”',
  'one-less': () => '“One goes away. How many now?”',
  'same-or-different': () => '“Are there the same number on both sides?”',
  'which-more': () => '“Which side has more?”',
  'make-equal': () => '“How many more to make both sides the same?”',
  'take-equal': () => '“Or take some off: how many, to make both sides the same?”',
  'how-many-groups': () => '“How many groups?”',
  'match-objects': () => '“Put out as many as this says.” Enter how many are there.',
  'where-to-cut': () => '“One cut, right through. Where?”',
  'two-sides': () => '“Now there are two sides.”',
  'another-cut': () => '“Put it back together. Another cut. Where?”',
  turned: () => '“I turn it round. How many altogether?”',
  'find-ten': () => '“Do two of them make ten? Which two?”',
  'nearer-ten': () => '“Which number is nearer to ten?”',
  'to-ten': () => '“How many more to make ten?”',
  'move-enough': (w) => `“Move just enough to fill the first ${w.frame}.”`,
  'left-over': () => '“Ten. How many are left over?”',
  'hides-ten': () => '“Which of these hides a ten?”',
  'remember-card': () => '“You saw the picture. Now just the numbers.”',
  'boxes-top': () => '“How many boxes in the top row?”',
  'boxes-below': () => '“How many boxes in the bottom row?”',
  'rule-start': () => '“This is the start box, top left. We always begin here. Say it with me.”',
  'rule-row': () => '“One in each box. Fill the top row first, then the bottom row. Say it with me.”',
  'rule-row-five': () => '“One in each box, along the row from the start box. Say it with me.”',
  'which-easier': () => '“The same number twice. Which is easier to see at a glance? Why?”',
  'whole-row': () => '“The full row. How do you know that it is five without counting?”',
  full: (w) => `“The ${w.frame} is full. How do you know how many without counting?”`,
  empty: (w) => `“The ${w.frame} is empty. How many is that?”`,
  'how-seen': () => '“How did you see them?”',
  'turn-hand': () => '“Turn your hands round. How many are folded?”',
  'this-side': () => '“How many on this side?”',
  'this-part': () => '“How many can you see?”',
  'this-half': () => '“How many on this half?”',
  'other-half': () => '“How many on the other half?”',
  'own-story': () => '“Now tell me a story of your own about these numbers.”',
  'child-sets': (w) => `“Now you set a number on the ${w.frame} for me.”`,
  'row-goes': () => '“Five go away: the full row. How many are left?”',
  silent: () => 'Say nothing now: the child does this one alone.',
  'where-ten': () => '“Where is the ten?”',
  'five-to-ten': () => '“And from five, how many more to make ten?”',
  'check-start': () => '“Let’s do a few.”',
  'check-thanks': () => '“Thank you. You worked hard.”',
  'on-the-frame': (w) => `“Here it is on the ${w.frame}. What do you see now?”`,
  'count-together': () => '“Let’s count them together.”',
  'count-empties': () => '“Let’s count the empty boxes together.”',
  'move-one-back': (w) => `“The first ${w.frame} is to be just full. Try it with fewer.”`,
  'move-one-more': (w) => `“Is the first ${w.frame} full yet? Move some more.”`,
  'look-at-board': () => '“Look at the board. Which one is still missing?”',
  'new-way': () => '“That is a new one.”',
  'all-yet': () => '“Have we got them all? How can we be sure?”',
  'have-that-way': () => '“We have that one already. Can you find a new one?”',
};

const equals = ({ equals: own }: Words): string => (own === 'is' ? 'is' : `${own}s`);
const boats = (n: number): string => `${n} ${formOf(n, 'boat', 'boats')}`;

/**
 * The verb of a sentence: "3 and 5 makes 8", "6 take away 5 is 1", "4 take away what leaves 1", "8 is 3 and 5".
 * @param left what stands before the equals sign, in signs
 */
function verb(left: string, words: Words): string {
  if (words.equals === 'equal') return 'equals';
  if (/[−-]/.test(left)) return left.includes('?') ? 'leaves' : 'is';
  return left.includes('+') ? equals(words) : 'is';
}

/** A fact or sentence read aloud in the class's words, its gap as "what". */
export function factAloud(text: string, words: Words): string {
  if (isFact(text)) {
    const fact = parseFact(text);
    if (!isNumberFact(fact)) return String(fact.answer);
    if (fact.kind === 'bond') return `${fact.whole} is ${fact.parts[0]} ${words.plus} what?`;
  }
  const [left = '', right = '?'] = factInPrint(text).split(' = ');
  const spoken = (side: string): string =>
    side.replace(/ \+ /g, ` ${words.plus} `).replace(/ − /g, ` ${words.minus} `).replace(/\?/g, 'what');
  return `${spoken(left)} ${verb(left, words)} ${spoken(right)}?`.replace(/^what/, 'What');
}

/** A sentence with its answer, read aloud: "3 and 5 makes 8". */
function wholeSentence(text: string, answer: string, words: Words): string {
  return factAloud(text, words)
    .slice(0, -1)
    .replace(/\bwhat\b/i, answer);
}

/** The same with its own right answer. */
const answeredAloud = (text: string, words: Words): string =>
  wholeSentence(text, parseQuestion(text).answer ?? '', words);

/** Asks how a number on a frame was seen. */
function countOrSee(n: number, words: Words): string {
  if (n === 0) return '“How did you know that it was empty?”';
  if (n === 10) return '“Did you count, or see that it was full?”';
  if (n === 5) return '“Did you count, or see the full row?”';
  return n > 5 ? `“Did you count, or see five ${words.plus} ${n - 5}?”` : '“Did you count, or see it at once?”';
}

/** What a check found, for the adult: about three pairs of a number were asked. */
function checkSays(known: number, { pair }: Words): string {
  if (known >= 10) return `The ${pair}s of ten came quickly: ready to go past ten.`;
  if (known < 2) return `Begin with the ${pair}s of two.`;
  return `The ${pair}s of ${inLetters(known)} came quickly; work on ${inLetters(known + 1)}.`;
}

/** Counting on or back, said number by number. */
function countOn(from: number, to: number): string {
  const step = from < to ? 1 : -1;
  const steps = Array.from({ length: Math.abs(to - from) }, (_, i) => from + step * (i + 1));
  return step > 0 ? `“Start at ${from}: ${steps.join(', ')}.”` : `“Start at ${from} and go back: ${steps.join(', ')}.”`;
}

/** How a number stands on the frame, said before it is hidden. */
function sayRule(n: number, { plus, frame }: Words): string {
  if (n === 0) return `“Look: the ${frame} is empty. Say it with me: nothing.”`;
  if (n === 10) return `“Look: the ${frame} is full. Say it with me: ten.”`;
  if (n === 5) return '“Look: the full row. Say it with me: five.”';
  return n > 5
    ? `“Look: a full row with ${n - 5} below. Say it with me: five ${plus} ${n - 5}.”`
    : `“Look: ${n} in the top row. Say it with me: ${n}.”`;
}

/** The question as it is put once more: where it came with a story or a picture, its question alone. */
function questionOf(said: Prompt, words: Words): string {
  switch (said.say) {
    case 'story':
      return 'How many are there now?';
    case 'count-up':
      return 'How many did you add?';
    case 'picture-it':
      return `${said.first} ${words.plus} what ${equals(words)} ${said.whole}?`;
    case 'wrong-on-purpose':
    case 'undo':
    case 'whole-sentence':
      return factAloud(said.fact, words);
    case 'count-aloud':
    case 'count-and-dot':
      return 'How many?';
    case 'die':
      return `What is the other ${words.part}?`;
    case 'row-goes':
      return 'How many are left?';
    case 'take-equal':
      return 'How many to take off, to make both sides the same?';
    case 'three-parts':
      return 'How many altogether?';
    default:
      return /“([^”]*)”/.exec(prompt(said, words))?.[1] ?? '';
  }
}

/** The question that suits a number just seen on a frame, for talk afterwards; its answer is not recorded. */
function followUp(n: number): string {
  if (n === 0) return '“How did you know it was empty?”';
  if (n < 5) return '“How many more to make five?”';
  if (n === 5) return '“What did the full row tell you?”';
  if (n === 10) return '“How did you know it was full?”';
  return '“How many in the top row? In the bottom row? Altogether? How many boxes are empty?”';
}

/** The prompt in words, quoted where it is to be said as it stands. */
export function prompt(said: Prompt, words: Words): string {
  const { pair, plus } = words;
  switch (said.say) {
    case 'how-many-more':
      return `“How many more to make ${said.to}?”`;
    case 'picture-it':
      return `“Picture it. ${said.first} ${plus} what ${equals(words)} ${said.whole}?”`;
    case 'sentence':
      return `“${factAloud(said.fact, words)}”`;
    case 'whole-sentence':
      return `“Say the whole sentence for me: ${factAloud(said.fact, words)}”`;
    case 'story':
      return `“${boats(said.first)} in the harbour. ${said.second} more ${formOf(said.second, 'comes', 'come')}. How many are there now?”`;
    case 'follow-up':
      return followUp(said.n);
    case 'fill':
      return `“Put ${said.n} on the ${words.frame}, by our rule.”`;
    case 'anywhere':
      return `“Put ${said.n} anywhere. Is it still ${said.n}?”`;
    case 'and-one-more':
      return `“${said.n} ${plus} one more. How many now?”`;
    case 'count-in':
      return said.of === 2 ? '“Count in twos. How many?”' : '“Count in fives. How many?”';
    case 'other-side':
      return `“${said.first} on this side. How many on the other?”`;
    case 'hidden-part':
      return `“The ${words.whole} is ${said.whole}. How many are hidden?”`;
    case 'moved-one':
      return `“Still ${said.whole}. How many on the other side?”`;
    case 'die':
      return `“The dice says ${said.face}: one ${words.part} of ${said.whole}. What is the other ${words.part}?”`;
    case 'a-way':
      return `“Tell me one way to make ${said.whole}.”`;
    case 'next-way':
      return `“Which way to make ${said.whole} comes next?”`;
    case 'withheld-way':
      return `“One way to make ${said.whole} is missing. Which one?”`;
    case 'ways-done':
      return `“Those are all the ways to make ${said.whole}. How do you know?”`;
    case 'ways-so-far':
      return `${said.found} found, ${said.repeated} repeated, ${said.left} left.`;
    case 'ways-totals': {
      const totals = waysTotals(said.whole);
      return `With turned ${pair}s counted separately: ${totals['turned-zero']} with zero, ${totals.turned} without. Counted as one: ${totals.zero} with zero, ${totals.plain} without.`;
    }
    case 'die-shuts-out':
      return `A die never gives ${eitherOf(outOfReach(said.whole).map(String))} as a ${words.part} of ${said.whole}.`;
    case 'three-parts':
      return `“${said.parts.join(` ${plus} `)}. How many altogether?”`;
    case 'three-missing':
      return `“${said.known.join(` ${plus} `)} first. How many more to make ${said.whole}?”`;
    case 'wrong-on-purpose':
      return `“You ask me. I say: ${wholeSentence(said.fact, String(said.claim), words)}. Put me right!”`;
    case 'say-sentence':
      return `“Say the whole sentence: ${answeredAloud(said.fact, words)}.”`;
    case 'card-back':
      return `“Here is the card again: ${answeredAloud(said.fact, words)}. Were you right?”`;
    case 'undo':
      return `“Put them back. ${factAloud(said.fact, words)}”`;
    case 'story-told':
      return `“${boats(said.first)} in the harbour. Then ${said.second} more ${formOf(said.second, 'comes', 'come')}.” Ask the child to put the story on their ${words.frame}.`;
    case 'count-up':
      return `“Here ${formOf(said.first, 'is', 'are')} ${said.first}. Count on and stop at the ring: ${said.first + said.second}. How many did you add?”`;
    case 'parts-sentence':
      return `“Say the whole sentence: ${said.whole} is ${said.first} ${plus} ${said.second}.”`;
    case 'turned-sentence':
      return `“${said.first} ${plus} ${said.second}; turned round, ${said.second} ${plus} ${said.first}. Is it still ${said.whole}?”`;
    case 'write-whole':
      return `“Write the ${words.whole} first: ${said.whole}.”`;
    case 'way-each':
      return `“Tell me one way to make ${said.whole} before we stop.”`;
    case 'split':
      return `“Split the ${said.of}: ${said.of} is ${said.to} ${plus} what?”`;
    case 'where-move':
      return `“Where is the ten? How many of the ${said.of} go to the ${said.to}?”`;
    case 'one-more-than':
      return `“Say the whole sentence: ${said.n + 1} is one more than ${said.n}.”`;
    case 'count-or-see':
      return countOrSee(said.n, words);
    case 'start-full':
      return `“The ${words.frame} is full: ${said.n}. Now some go away.”`;
    case 'say-rule':
      return sayRule(said.n, words);
    case 'still':
      return `“Still ${said.n}, wherever they lie.”`;
    case 'built':
      return said.n === 0 ? '“Yes: empty, nothing.”' : `“Yes: ${said.n}, by our rule.”`;
    case 'take-off':
      return `“How many should there be? Take ${said.n} off.”`;
    case 'put-on':
      return `“How many should there be? Put ${said.n} more on.”`;
    case 'count-on':
      return countOn(said.from, said.to);
    case 'check':
      return `“${thought(said.thought, said.question, words)} ${questionOf(said.question, words)}”`;
    case 'look-together':
      return `“Shall we look together? ${questionOf(said.question, words)}”`;
    case 'look-again':
      return `“Look again. ${questionOf(said.question, words)}”`;
    case 'turned-new':
      return `“That is ${said.second} ${plus} ${said.first} turned round. Do we count it?” By the class’s rule: yes.`;
    case 'turned-same':
      return `“That is ${said.second} ${plus} ${said.first} turned round. Do we count it?” By the class’s rule: no.`;
    case 'not-a-way':
      return `“${said.first} ${plus} ${said.second}: how many is that? We want ${said.whole}.”`;
    case 'recap':
      return `“Here are the ways we found to make ${said.whole}.” Let the children read them.`;
    case 'tell-one':
      return `“Tell a friend one way to make ${said.whole}.”`;
    case 'check-says':
      return checkSays(said.known, words);
    default:
      return PLAIN[said.say](words);
  }
}
