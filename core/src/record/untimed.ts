import { parseQuestion } from '../facts/question';
import { NOTHING_ADDED, type Response } from './response';

/** What is known of an answer that nobody timed. */
type Untimed = Pick<Response, 'id' | 'child' | 'sitting' | 'shownAt' | 'fact'> &
  Partial<Pick<Response, 'given' | 'sign' | 'aid' | 'void'>>;

/**
 * An answer that was heard, written down or keyed in, without times: a helper's phone, a sheet, a carpet without a screen, a class that answers together.
 * @param untimed `shownAt`: milliseconds since 1970; `given` empty = no answer
 * @throws NotAFact that `fact` is no question
 * @example untimedAnswer({ id: 'r1', child, sitting, shownAt: Date.now(), fact: '3+4', given: '7', sign: 'knew' })
 */
export function untimedAnswer({ given = '', ...known }: Untimed): Response {
  const { kind, answer } = parseQuestion(known.fact);
  return {
    ...NOTHING_ADDED,
    ...known,
    kind,
    given,
    answerMode: 'spoken',
    exposureMs: null,
    responseMs: null,
    outcome: given === '' ? 'none' : given === answer ? 'correct' : 'wrong',
  };
}
