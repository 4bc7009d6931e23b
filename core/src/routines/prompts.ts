import { factInPrint, isNumberFact, parseFact } from '../facts/fact';
import { isFact, parseQuestion } from '../facts/question';
import { outOfReach, waysTotals } from './ways';
import type { Words } from './classWords';

/** Prompts that hold no numbers. */
const PLAIN = {
  ready: () => '“Ready? Look.”',
  copy: () => '“Which number is this?”',
  count: (w) => `“Count these. How many ${w.things}?”`,
  'how-many-seen': (w) => `“How many ${w.things} did you see?”`,
  'how-many-now': (w) => `“How many ${w.things} now?”`,
  'empty-boxes': () => '“How many boxes are empty?”',
  folded: () => '“How many fingers are folded?”',
  left: (w) => `“How many ${w.things} are left?”`,
  'find-whole': (w) => `“These are the ${w.part}s. What is the ${w.whole}?”`,
  'find-part': (w) => `“This is the ${w.whole}. What is the other ${w.part}?”`,
  'how-known': () => '“How did you know?”',
  thanks: () => 'Thank you.',
  boxes: (w) => `“How many boxes has our ${w.frame}?”`,
  'start-box': () => '“Where does the first one go?”',
  'fill-empty': (w) => `“Show me nothing on the ${w.frame}.”`,
  'fill-full': (w) => `“Fill the ${w.frame}. One in each box.”`,
  'build-seen': (w) => `“Put what you saw on your ${w.frame}.”`,
  'check-own': () => '“Look again. Is yours the same? How many?”',
  rows: () => '“Look at the top row. Look at the row below.”',
  'top-row': (w) => `“How many ${w.things} in the top row?”`,
  'lower-row': (w) => `“How many ${w.things} in the row below?”`,
  'in-all': () => '“How many in all?”',
  'one-more': () => '“And if one more came?”',
  'one-less': () => '“And if one went away?”',
  'same-or-different': () => '“Are there as many on both sides, or not?”',
  'which-more': (w) => `“Which side has more ${w.things}?”`,
  'make-equal': (w) => `“How many more, so that both sides have as many ${w.things}?”`,
  'how-many-groups': () => '“How many groups?”',
  'match-objects': () => '“Put out as many as this says.” Mark how many lie there.',
  'where-to-cut': () => '“One cut, right through. Where?”',
  'another-cut': () => '“Put it together again. Another cut. Where?”',
  turned: () => '“I turn it round. How many in all?”',
  'find-ten': (w) => `“Which two ${w.equals} ten?”`,
  'nearer-ten': () => '“Which number is nearer ten?”',
  'to-ten': () => '“How many are missing to ten?”',
  'move-enough': (w) => `“Move just enough ${w.things} to fill the first ${w.frame}.”`,
  'left-over': () => '“Ten. How many are left over?”',
  'hides-ten': () => '“In which of these does a ten hide?”',
  claim: (w) => `“Up to which number do you know every ${w.pair}?”`,
  'remember-card': () => '“You saw the picture. Now only the numbers.”',
} satisfies Record<string, (w: Words) => string>;

/** What the adult says next, as data; `say` puts it into the class's own words. No prompt is written anywhere else. */
export type Prompt =
  | { readonly say: keyof typeof PLAIN }
  | { readonly say: 'how-many-more'; readonly to: number }
  | { readonly say: 'picture-it'; readonly first: number; readonly whole: number }
  | { readonly say: 'sentence' | 'whole-sentence'; readonly fact: string }
  | { readonly say: 'story'; readonly first: number; readonly second: number }
  | { readonly say: 'follow-up' | 'fill' | 'anywhere' | 'and-one-more'; readonly n: number }
  | { readonly say: 'count-in'; readonly of: 2 | 5 }
  | { readonly say: 'other-side'; readonly first: number }
  | {
      readonly say:
        | 'hidden-part'
        | 'moved-one'
        | 'die'
        | 'a-way'
        | 'next-way'
        | 'withheld-way'
        | 'ways-done'
        | 'recap'
        | 'tell-one';
      readonly whole: number;
    }
  | { readonly say: 'ways-so-far'; readonly found: number; readonly repeated: number; readonly left: number }
  | { readonly say: 'ways-totals' | 'die-shuts-out'; readonly whole: number }
  | { readonly say: 'three-parts'; readonly parts: readonly number[] }
  | { readonly say: 'three-missing'; readonly known: readonly [number, number]; readonly whole: number }
  | { readonly say: 'ask-me'; readonly fact: string; readonly claim: number }
  | { readonly say: 'check-says'; readonly known: number; readonly next: number };

/** The class's word for the equals sign after a single subject: "3 and 5 makes 8". */
const equals = (words: Words): string => (words.equals === 'is' ? 'is' : `${words.equals}s`);
const some = (n: number, { things }: Words): string => `${n} ${n === 1 ? things.slice(0, -1) : things}`;

const listed = (numbers: readonly number[]): string =>
  numbers.length < 2 ? numbers.join('') : `${numbers.slice(0, -1).join(', ')} or ${numbers[numbers.length - 1]}`;

/** A fact or sentence read aloud in the class's words, its gap as "what". */
export function factAloud(text: string, words: Words): string {
  if (isFact(text)) {
    const fact = parseFact(text);
    if (!isNumberFact(fact)) return String(fact.answer);
    if (fact.kind === 'bond') return `${fact.whole} is ${fact.parts[0]} ${words.plus} what?`;
  }
  const read = factInPrint(text.includes('?') ? text : `${text}=?`)
    .replace(/ \+ /g, ` ${words.plus} `)
    .replace(/ − /g, ` ${words.minus} `)
    .replace(/ = /g, ` ${equals(words)} `)
    .replace(/\?/g, 'what');
  return `${read}?`;
}

/** A sentence with its answer, read aloud: "3 and 5 makes 8". */
function wholeSentence(text: string, answer: string, words: Words): string {
  return factAloud(text, words)
    .slice(0, -1)
    .replace(/\bwhat\b/, answer);
}

/** The question that suits a number just seen on a frame, for talk afterwards; its answer is not recorded. */
function followUp(n: number, words: Words): string {
  if (n === 0) return '“How did you know it was empty?”';
  if (n < 5) return `“How many more ${words.equals} five?”`;
  if (n === 5) return '“What did the full row tell you?”';
  if (n === 10) return '“How did you know it was full?”';
  return n === 9 ? '“How many boxes were empty?”' : `“How many ${words.things} on the top, how many below?”`;
}

/** The prompt in words, quoted where it is to be said as it stands. */
export function say(prompt: Prompt, words: Words): string {
  const { things, pair, plus } = words;
  switch (prompt.say) {
    case 'how-many-more':
      return `“How many more ${words.equals} ${prompt.to}?”`;
    case 'picture-it':
      return `“Picture it. ${prompt.first} ${plus} what ${words.equals} ${prompt.whole}?”`;
    case 'sentence':
      return `“${factAloud(prompt.fact, words)}”`;
    case 'whole-sentence':
      return `“Say it all: ${factAloud(prompt.fact, words)}”`;
    case 'story':
      return `“${some(prompt.first, words)} on the jetty. ${prompt.second} more ${prompt.second === 1 ? 'comes' : 'come'}. How many are there now?”`;
    case 'follow-up':
      return followUp(prompt.n, words);
    case 'fill':
      return `“Put ${some(prompt.n, words)} on the ${words.frame}, by our rule.”`;
    case 'anywhere':
      return `“Put ${some(prompt.n, words)} anywhere. Is it still ${prompt.n}?”`;
    case 'and-one-more':
      return `“${prompt.n} ${plus} one more. How many ${things} now?”`;
    case 'count-in':
      return prompt.of === 2 ? `“Count in twos. How many ${things}?”` : `“Count in fives. How many ${things}?”`;
    case 'other-side':
      return `“${prompt.first} on this side. How many ${things} on the other?”`;
    case 'hidden-part':
      return `“The ${words.whole} is ${prompt.whole}. How many are hidden?”`;
    case 'moved-one':
      return `“Still ${prompt.whole}. How many ${things} on the second tray?”`;
    case 'die':
      return `“The die gives one ${words.part} of ${prompt.whole}. What is the other ${words.part}?”`;
    case 'a-way':
      return `“Tell me a ${pair} for ${prompt.whole}.”`;
    case 'next-way':
      return `“Which ${pair} for ${prompt.whole} comes next?”`;
    case 'withheld-way':
      return `“One ${pair} for ${prompt.whole} is not here. Which?”`;
    case 'ways-done':
      return `“That is every ${pair} for ${prompt.whole}. How do you know?”`;
    case 'ways-so-far':
      return `${prompt.found} found, ${prompt.repeated} told twice, ${prompt.left} left. “Have we got them all? How can we check?”`;
    case 'ways-totals': {
      const totals = waysTotals(prompt.whole);
      return `Turned ${pair}s apart: ${totals['turned-zero']} with zero, ${totals.turned} without. As one: ${totals.zero} with zero, ${totals.plain} without.`;
    }
    case 'die-shuts-out':
      return `A die never gives ${listed(outOfReach(prompt.whole))} of ${prompt.whole}.`;
    case 'three-parts':
      return `“${prompt.parts.join(` ${plus} `)}. How many ${things} in all?”`;
    case 'three-missing':
      return `“${prompt.known.join(` ${plus} `)} first. What is missing to ${prompt.whole}?”`;
    case 'ask-me':
      return `“Now you ask me. I say: ${wholeSentence(prompt.fact, String(prompt.claim), words)}. Am I right?” The right answer is ${parseQuestion(prompt.fact).answer}.`;
    case 'recap':
      return `“These are the ${pair}s we found for ${prompt.whole}.” Let the children read them.`;
    case 'tell-one':
      return `“Tell somebody one ${pair} for ${prompt.whole}.”`;
    case 'check-says':
      return `So far: every ${pair} up to ${prompt.known} comes quickly; ${prompt.next} is the number to work on.`;
    default:
      return PLAIN[prompt.say](words);
  }
}
