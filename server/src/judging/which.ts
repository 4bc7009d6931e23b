import type { ClassKey } from '../classes/children';

/** A class, or one child of it. */
export interface Which extends ClassKey {
  readonly childId?: string;
}

/** The same as a condition on a table of responses. */
export const classOrChild = (
  { schoolId, classId, childId }: Which,
  table: string,
): { where: string; values: string[] } => ({
  where: `${table}.school_id = ? and ${table}.class_id = ?${childId === undefined ? '' : ` and ${table}.child_id = ?`}`,
  values: [schoolId, classId, ...(childId === undefined ? [] : [childId])],
});
