import { v5, validate } from 'uuid';

/** Names statements of responses whose own ids are no UUIDs. */
const VANE_NAMESPACE = '6e1f2f0a-6a53-5f6b-9d0c-5a1e51a7e0aa';

/** The id of a response's statement: always the same for the same response. */
export const statementId = (schoolId: string, responseId: string): string =>
  validate(responseId) ? responseId : v5(`${schoolId} ${responseId}`, VANE_NAMESPACE);
