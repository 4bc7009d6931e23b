import { toRow, type RecordRow } from '@vane/contract';
import {
  adultMarks,
  isRight,
  untimedAnswer,
  type Aid,
  type AnswerMode,
  type Ask,
  type Measured,
  type Response,
} from '@vane/core';

/** Why a note made while the class answers together does not count. */
export const CHORAL = 'choral';

interface AskedQuestion {
  /** Of the new row. */
  readonly id: string;
  readonly child: string;
  readonly sitting: string;
  readonly shownAt: number;
  readonly fact: string;
  readonly aid: Aid;
}

/** A child seen counting while the class answered together: kept, and never evidence. */
export const choralRow = (asked: AskedQuestion): RecordRow =>
  toRow(untimedAnswer({ ...asked, sign: 'counted', void: CHORAL }));

/** An answer that replaces one entered wrongly. What was spoken keeps its time, measured when the child spoke; that of a tap was the wrong answer's. */
export const again = (was: RecordRow, ask: Ask, given: string, id: string): RecordRow => ({
  ...was,
  response_id: id,
  given,
  outcome: given === '' ? 'none' : isRight(ask, given) ? 'correct' : 'wrong',
  response_ms: given === '' ? null : was.response_ms,
  flags: adultMarks(was.answer_mode) || was.flags.includes('remarked') ? was.flags : [...was.flags, 'remarked'],
  explanation: '',
  help: [],
  second_answer: '',
});

/** An answer as the record has it, with how it was measured. */
export function answerRow(
  asked: AskedQuestion,
  ask: Ask,
  given: string,
  how: { mode: AnswerMode; spoiled: boolean; askedMs: number | null; within?: number },
  result: Measured,
): RecordRow {
  const right = isRight(ask, given) ? 'correct' : 'wrong';
  const response: Response = {
    ...untimedAnswer(asked),
    answerMode: how.mode,
    exposureMs: result.exposureMs,
    responseMs: given === '' ? null : result.responseMs,
    given,
    outcome: given === '' ? 'none' : right,
    void: how.spoiled ? 'spoiled' : '',
    flags: result.flags,
  };
  const measuredBy = {
    asked_ms: how.askedMs,
    frame_ms: result.frameMs,
    frames_ms: result.framesMs.slice(0, 600),
    dropped_frames: result.droppedFrames,
  };
  // Where two clocks were matched, the record says how well.
  return toRow(response, how.within ? { ...measuredBy, clock_ms: Math.round(10 * how.within) / 10 } : measuredBy);
}
