import { isNumberFact, parseFact } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { isAt, type Need } from './need';
import { standingOf, STANDINGS, type Standing } from './standing';

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

/**
 * How each child stands with a topic: as most of its facts that were asked stand, the less settled way where two are as frequent; 'not asked' where none was.
 * @param children ids
 */
export function whoKnows(
  topic: Topic,
  children: readonly string[],
  readings: readonly Reading[],
): Map<string, Standing> {
  const own = readings.filter((r) => r.responses > 0 && isAbout(topic, r.fact));
  return new Map(
    children.map((child) => {
      const standings = own.filter((r) => r.child === child).map(standingOf);
      const count = (standing: Standing): number => standings.filter((one) => one === standing).length;
      const most = STANDINGS.reduce((best, one) => (count(one) >= count(best) ? one : best));
      return [child, standings.length === 0 ? 'not asked' : most];
    }),
  );
}
