import { UUID } from '../db/keys';
import { RequestProblem } from '../problems/problem';

/** Answers "not found" for ids that are none, rather than letting the database stumble over them. */
export function uuidOr404(text: string | undefined): string {
  if (text === undefined || !UUID.test(text)) throw new RequestProblem('not-found');
  return text.toLowerCase();
}
