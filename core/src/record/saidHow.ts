import { answerTo } from '../facts/question';
import { EXPLANATIONS, HELPS, type Explanation, type Help, type Response } from './response';

/** How often a child said that they did it in one way: lately, and before that. */
interface SaidHow {
  readonly explanation: Explanation;
  readonly lately: number;
  readonly before: number;
}

/**
 * The ways in which a child said that they did it, the commonest lately first.
 * @param since milliseconds since 1970 from which on is lately
 */
export function saidHow(responses: readonly Response[], since: number): SaidHow[] {
  const said = responses.filter((r) => r.void === '');
  const count = (explanation: Explanation, lately: boolean): number =>
    said.filter((r) => r.explanation === explanation && r.shownAt >= since === lately).length;
  return EXPLANATIONS.map((explanation) => ({
    explanation,
    lately: count(explanation, true),
    before: count(explanation, false),
  }))
    .filter(({ lately, before }) => lately + before > 0)
    .sort((a, b) => b.lately - a.lately || b.before - a.before);
}

/** How often a way of helping was used, and how often the right answer came after it. */
interface Helped {
  readonly help: Help;
  readonly times: number;
  readonly putRight: number;
}

/** What helped after first answers that were not right, the commonest first. */
export function helped(responses: readonly Response[]): Helped[] {
  const valid = responses.filter((r) => r.void === '');
  return HELPS.map((help) => {
    const own = valid.filter((r) => r.help.includes(help));
    const putRight = own.filter((r) => r.secondAnswer !== '' && r.secondAnswer === answerTo(r.fact));
    return { help, times: own.length, putRight: putRight.length };
  })
    .filter(({ times }) => times > 0)
    .sort((a, b) => b.times - a.times);
}
