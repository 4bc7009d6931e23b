import * as z from 'zod';
import { day, filledLine, line } from './text';

/** What is put right in the record. The original stays, with who changed it and when. */
export const correctionRequest = z
  .object({
    /** These responses, or all of a sitting. */
    responses: z.array(line(64).min(1)).min(1).max(500).optional(),
    sitting: line(64).min(1).optional(),
    change: z.discriminatedUnion('what', [
      z.object({ what: z.literal('void'), reason: filledLine(200) }),
      /** What was void for this reason counts again, as it did before. */
      z.object({ what: z.literal('valid'), reason: filledLine(200) }),
      /** The adult pressed another number than the child said. */
      z.object({ what: z.literal('answer'), given: line(40) }),
      /** Another child answered. */
      z.object({ what: z.literal('child'), child: z.uuid() }),
      /** A numeral turned round or misread: a slip of the pen, and the number was right. */
      z.object({ what: z.literal('slip') }),
      /** As it was first recorded. */
      z.object({ what: z.literal('original') }),
    ]),
  })
  .refine((r) => (r.responses === undefined) !== (r.sitting === undefined), 'name either responses or a sitting');
/** The reason, as it is kept, where a whole session is void. */
export const SESSION_SPOILED = 'session spoiled';
export type CorrectionRequest = z.infer<typeof correctionRequest>;
export type CorrectionChange = CorrectionRequest['change'];

/** Which lines of the log are wanted; all of them when nothing is named. */
export const logQuery = z.object({
  offset: z.coerce.number().int().min(0).catch(0),
  child: z.uuid().optional(),
  routine: line(40).optional(),
  fact: line(60).optional(),
  from: day.optional(),
  to: day.optional(),
  only: z.enum(['void', 'flagged', 'corrected', 'wrong']).optional(),
});
export type LogQuery = z.infer<typeof logQuery>;
