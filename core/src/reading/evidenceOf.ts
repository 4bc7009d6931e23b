import type { Flag, Response } from '../record/response';

/** Flags that say how well a time was measured, not that it is wrong: the exposure and the press carry their own time stamps (docs/decisions/0002). */
const HARMLESS: readonly Flag[] = ['dropped-frame', 'slow-handler'];

/** True for an answer that the judgement may use: first look, unaided, not void, and not flagged in a way that spoils it (docs/model.md, "What is judged"). */
export const isEvidence = (r: Response): boolean =>
  r.void === '' && r.aid === 'none' && (r.flags.length === 0 || r.flags.every((flag) => HARMLESS.includes(flag)));

/** True for an answer that is evidence: a child who was asked and said nothing gave none (docs/model.md, "Answer and sign"). */
export const isAnswer = (r: Response): boolean => r.outcome !== 'none' && isEvidence(r);

const JUDGED: ReadonlySet<Response['kind']> = new Set(['add', 'subtract', 'missing', 'bond', 'show']);

/** True for kinds that ask for a fact that can be known, as against measures of hand and pace and routines that record several facts. */
export const isJudged = (r: Response): boolean => JUDGED.has(r.kind);
