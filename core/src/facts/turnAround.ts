import { isNumberFact, parseFact } from './fact';
import { isFact } from './question';

/**
 * A fact and it turned round, as one text: who has heard the one answered has heard the other. Null for what is no number fact: an amount that is shown has to be seen, whatever was said before.
 * @example turnAround('4+3') === turnAround('3+4')
 */
export function turnAround(text: string): string | null {
  const sum = /^(\d+)\+(\d+)$/.exec(text);
  if (sum) return `+:${[Number(sum[1]), Number(sum[2])].sort((a, b) => a - b).join(':')}`;
  if (!isFact(text)) return null;
  const fact = parseFact(text);
  if (!isNumberFact(fact)) return null;
  return `${fact.kind === 'subtract' ? '-' : '?'}:${fact.whole}:${Math.min(...fact.parts)}`;
}
