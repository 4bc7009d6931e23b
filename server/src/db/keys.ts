export const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** A class of a school: what every query about a class names. */
export interface ClassKey {
  readonly schoolId: string;
  readonly classId: string;
}

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
