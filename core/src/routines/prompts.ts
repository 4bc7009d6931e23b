import { isNumberFact, parseFact } from '../facts/fact';
import type { Words } from './words';

/** What the adult says next, as data; `say` puts it into the class's own words. No prompt is written anywhere else. */
export type Prompt =
  | { readonly say: 'ready' }
  | { readonly say: 'copy' }
  | { readonly say: 'count' }
  | { readonly say: 'how-many-seen' }
  | { readonly say: 'how-many-now' }
  | { readonly say: 'how-many-more'; readonly to: number }
  | { readonly say: 'empty-boxes' }
  | { readonly say: 'picture-it'; readonly first: number; readonly whole: number }
  | { readonly say: 'folded' }
  | { readonly say: 'left' }
  | { readonly say: 'sentence'; readonly fact: string }
  | { readonly say: 'find-whole' }
  | { readonly say: 'find-part' }
  | { readonly say: 'story'; readonly first: number; readonly second: number }
  | { readonly say: 'follow-up'; readonly n: number }
  | { readonly say: 'how-known' }
  | { readonly say: 'thanks' };

/** A fact read aloud in the class's words, its gap as "what". */
export function factAloud(text: string, words: Words): string {
  const fact = parseFact(text);
  if (!isNumberFact(fact)) return String(fact.answer);
  if (fact.kind === 'bond') return `${fact.whole} is ${fact.parts[0]} ${words.plus} what?`;
  const gap = text.includes('?');
  const read = (gap ? text : `${text}=?`)
    .replace(/\+/g, ` ${words.plus} `)
    .replace(/-/g, ` ${words.minus} `)
    .replace(/=/g, ` ${words.equals}${words.equals === 'make' || words.equals === 'equal' ? 's' : ''} `)
    .replace(/\?/g, 'what');
  return `${read.trim()}?`;
}

/** The question that suits a number just seen on a frame, for talk afterwards; its answer is not recorded. */
function followUp(n: number, words: Words): string {
  if (n === 0) return '“How did you know it was empty?”';
  if (n < 5) return '“How many more to five?”';
  if (n === 5) return '“What did the full row tell you?”';
  if (n === 10) return '“How did you know it was full?”';
  return n === 9 ? '“How many boxes were empty?”' : `“How many ${words.things} on the top, how many below?”`;
}

/** The prompt in words, quoted where it is to be said as it stands. */
export function say(prompt: Prompt, words: Words): string {
  switch (prompt.say) {
    case 'ready':
      return '“Ready? Look.”';
    case 'copy':
      return '“Which number is this?”';
    case 'count':
      return `“Count these. How many ${words.things}?”`;
    case 'how-many-seen':
      return `“How many ${words.things} did you see?”`;
    case 'how-many-now':
      return `“How many ${words.things} now?”`;
    case 'how-many-more':
      return `“How many more ${words.equals} ${prompt.to}?”`;
    case 'empty-boxes':
      return '“How many boxes are empty?”';
    case 'picture-it':
      return `“Picture it. ${prompt.first} ${words.plus} what ${words.equals} ${prompt.whole}?”`;
    case 'folded':
      return '“How many fingers are folded?”';
    case 'left':
      return `“Crossed off means gone. How many ${words.things} are left?”`;
    case 'sentence':
      return `“${factAloud(prompt.fact, words)}”`;
    case 'find-whole':
      return `“These are the parts. What is the ${words.whole}?”`;
    case 'find-part':
      return `“This is the ${words.whole}. What is the other part?”`;
    case 'story':
      return `“${prompt.first} ${prompt.first === 1 ? words.things.slice(0, -1) : words.things} on the jetty. ${prompt.second} more ${prompt.second === 1 ? 'comes' : 'come'}. How many are there now?”`;
    case 'follow-up':
      return followUp(prompt.n, words);
    case 'how-known':
      return '“How did you know?”';
    case 'thanks':
      return 'Thank you.';
  }
}
