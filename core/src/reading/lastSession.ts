import { isAnswer, isJudged } from './evidenceOf';
import type { Response } from '../record/response';

/** What was answered in a session: answers that were judged, how many of them were wrong, and answers with help. */
export interface SessionSum {
  readonly judged: number;
  readonly wrong: number;
  readonly helped: number;
}

/** The last session of which anything counts: one that is void is as if it had not been. @param responses of one child, oldest first */
export const lastSitting = (responses: readonly Pick<Response, 'sitting' | 'void'>[]): string | undefined =>
  responses.findLast((r) => r.void === '')?.sitting;

/** What one child answered in their last session. @param responses of one child, oldest first */
export function lastSession(responses: readonly Response[]): SessionSum {
  const last = lastSitting(responses);
  const own = responses.filter((r) => r.sitting === last && r.void === '' && isJudged(r));
  const judged = own.filter(isAnswer);
  return {
    judged: judged.length,
    wrong: judged.filter((r) => r.outcome !== 'correct').length,
    helped: own.filter((r) => r.aid !== 'none').length,
  };
}
