import { factInPrint, isNumberFact, parseFact } from '../../facts/fact';
import { isFact, parseQuestion } from '../../facts/question';
import type { Words } from '../../routines/classWords';
import type { PlainPrompt, Prompt } from '../../routines/prompt';
import { outOfReach, waysTotals } from '../../routines/ways';
import { eitherOf, formOf } from './numbers';

/** Prompts that hold no numbers. */
const PLAIN: Record<PlainPrompt, (words: Words) => string> = {
  ready: () => '“Ready? Clear. Here it comes.”',
  copy: () => '“Which number is this?”',
  count: () => '“Count these. How many are there?”',
  'how-many-seen': () => '“How many did you see?”',
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
  'check-own': () => '“Look again. Is yours the same? How many?”',
  rows: () => '“Look at the top row. Now look at the bottom row.”',
  'top-row': () => '“How many in the top row?”',
  'lower-row': () => '“How many in the bottom row?”',
  'in-all': () => '“How many altogether?”',
  'one-more': () => '“One more comes. How many now?”',
  'one-less': () => '“What if one went away?”',
  'same-or-different': () => '“Are there the same number on both sides?”',
  'which-more': () => '“Which side has more?”',
  'make-equal': () => '“How many more to make both sides the same?”',
  'how-many-groups': () => '“How many groups?”',
  'match-objects': () => '“Put out as many as this says.” Enter how many are there.',
  'where-to-cut': () => '“One cut, right through. Where?”',
  'another-cut': () => '“Put it back together. Another cut. Where?”',
  turned: () => '“I turn it round. How many altogether?”',
  'find-ten': () => '“Which two make ten?”',
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
  'check-start': () => '“Let’s do some quick ones together.”',
  'check-thanks': () => '“Thank you. You worked hard.”',
  'fix-look': () => '“We can fix that. Look again: how many?”',
  'fix-frame': (w) => `“We can fix that. Put it on the ${w.frame}.”`,
  'fix-count': () => '“We can fix that. Let’s count together.”',
  'all-yet': () => '“Have we got them all? How can we be sure?”',
  'have-that-way': () => '“We have that one already. Which one is still missing?”',
};

const equals = ({ equals: own }: Words): string => (own === 'is' ? 'is' : `${own}s`);
const some = (n: number, { things }: Words): string => `${n} ${formOf(n, things.slice(0, -1), things)}`;

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

/** The question that suits a number just seen on a frame, for talk afterwards; its answer is not recorded. */
function followUp(n: number): string {
  if (n === 0) return '“How did you know it was empty?”';
  if (n < 5) return '“How many more to make five?”';
  if (n === 5) return '“What did the full row tell you?”';
  if (n === 10) return '“How did you know it was full?”';
  return n === 9 ? '“How many boxes were empty?”' : '“How many in the top row? How many in the bottom row?”';
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
      return `“Say it all in one sentence: ${factAloud(said.fact, words)}”`;
    case 'story':
      return `“${some(said.first, words)} on the jetty. ${said.second} more ${formOf(said.second, 'comes', 'come')}. How many are there now?”`;
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
      return `“The dice says one ${words.part} of ${said.whole}. What is the other ${words.part}?”`;
    case 'a-way':
      return `“Tell me a ${pair} for ${said.whole}.”`;
    case 'next-way':
      return `“Which ${pair} for ${said.whole} comes next?”`;
    case 'withheld-way':
      return `“One ${pair} for ${said.whole} is missing. Which one?”`;
    case 'ways-done':
      return `“Those are all the ${pair}s for ${said.whole}. How do you know?”`;
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
      return `“Say it all: ${answeredAloud(said.fact, words)}.”`;
    case 'card-back':
      return `“Here is the card again: ${answeredAloud(said.fact, words)}. Were you right?”`;
    case 'undo':
      return `“Put them back. ${factAloud(said.fact, words)}”`;
    case 'story-told':
      return `“${some(said.first, words)} on the jetty. Then ${said.second} more ${formOf(said.second, 'comes', 'come')}.” Ask the child to put the story on their ${words.frame}.`;
    case 'count-up':
      return `“Here ${formOf(said.first, 'is', 'are')} ${said.first}. The ring holds ${said.first + said.second}. Count on, and stop at the ring. How many did you add?”`;
    case 'parts-sentence':
      return `“Say it all: ${said.whole} is ${said.first} ${plus} ${said.second}.”`;
    case 'turned-sentence':
      return `“${said.first} ${plus} ${said.second}; turned round, ${said.second} ${plus} ${said.first}. Is it still ${said.whole}?”`;
    case 'write-whole':
      return `“Write the ${words.whole} first: ${said.whole}.”`;
    case 'way-each':
      return `“Tell me one ${pair} for ${said.whole} before we stop.”`;
    case 'split':
      return `“Split the ${said.of}: ${said.of} is ${said.to} ${plus} what?”`;
    case 'where-move':
      return `“Where is the ten? How many of the ${said.of} go to the ${said.to}?”`;
    case 'one-more-than':
      return `“Say it all: ${said.n + 1} is one more than ${said.n}.”`;
    case 'count-or-see':
      return countOrSee(said.n, words);
    case 'start-full':
      return `“The ${words.frame} is full: ${said.n}. Now some go away.”`;
    case 'fix-take-off':
      return `“How many should there be? Take ${said.n} off.”`;
    case 'fix-put-on':
      return `“How many should there be? Put ${said.n} more on.”`;
    case 'fix-count-on':
      return `“We can fix that. Count on from ${said.from}.”`;
    case 'turned-new':
      return `“That is ${said.second} ${plus} ${said.first} turned round. Do we count it?” By the class’s rule: yes.`;
    case 'turned-same':
      return `“That is ${said.second} ${plus} ${said.first} turned round. Do we count it?” By the class’s rule: no.`;
    case 'not-a-way':
      return `“${said.first} ${plus} ${said.second}: how many is that? We want ${said.whole}.”`;
    case 'recap':
      return `“Here are the ${pair}s we found for ${said.whole}.” Let the children read them.`;
    case 'tell-one':
      return `“Tell a friend one ${pair} for ${said.whole}.”`;
    case 'check-says':
      return `So far: every ${pair} up to ${said.known} comes quickly; ${said.next} is the number to work on.`;
    default:
      return PLAIN[said.say](words);
  }
}
