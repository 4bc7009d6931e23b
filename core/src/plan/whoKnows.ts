import { isNumberFact, parseFact } from '../facts/fact';
import { READING_WORDS, toldAs, TOLD_WORDS, type Reading, type ReadingWord, type ToldWord } from '../reading/reading';
import { isAt, type Need } from './need';

/** What a class is looked at for: one fact, a step of the path, or everything about a number. */
export type Topic =
  | { readonly about: 'fact'; readonly fact: string }
  | { readonly about: 'need'; readonly need: Need }
  | { readonly about: 'number'; readonly number: number };

function isAbout(topic: Topic, text: string): boolean {
  switch (topic.about) {
    case 'fact':
      return text === topic.fact;
    case 'need':
      return isAt(topic.need, text);
    case 'number': {
      const fact = parseFact(text);
      return isNumberFact(fact) && fact.whole === topic.number;
    }
  }
}

/** How a child stands with a topic. */
export const TOPIC_WORDS = [...TOLD_WORDS, 'not asked'] as const;
export type TopicWord = (typeof TOPIC_WORDS)[number];

/** The reading whose needle is drawn for it: where time cannot tell, that of "in between". */
export function needleOf(word: TopicWord): ReadingWord {
  if (word === 'not asked') return 'too few answers';
  return READING_WORDS.find((one) => one === word) ?? 'in between';
}

/**
 * How each child stands with a topic: the word that most of its facts have for them, the less settled one where two are as frequent; 'not asked' where none was asked.
 * @param children ids
 */
export function whoKnows(
  topic: Topic,
  children: readonly string[],
  readings: readonly Reading[],
): Map<string, TopicWord> {
  const own = readings.filter((r) => r.responses > 0 && isAbout(topic, r.fact));
  return new Map(
    children.map((child) => {
      const words = own.filter((r) => r.child === child).map(toldAs);
      const count = (word: ToldWord): number => words.filter((one) => one === word).length;
      const most = TOLD_WORDS.reduce((best, word) => (count(word) >= count(best) ? word : best));
      return [child, words.length === 0 ? 'not asked' : most];
    }),
  );
}
