import { isAnswer, isJudged } from './evidenceOf';
import type { Response } from '../record/response';

/** What was answered in a session: answers that were judged, how many of them were wrong, and answers with help. */
export interface SessionSum {
  readonly judged: number;
  readonly wrong: number;
  readonly helped: number;
}

/** What one child answered in their last session. @param responses of one child, oldest first */
export function lastSession(responses: readonly Response[]): SessionSum {
  const last = responses[responses.length - 1]?.sitting;
  const own = responses.filter((r) => r.sitting === last && r.void === '' && isJudged(r));
  const judged = own.filter(isAnswer);
  return {
    judged: judged.length,
    wrong: judged.filter((r) => r.outcome !== 'correct').length,
    helped: own.filter((r) => r.aid !== 'none').length,
  };
}
