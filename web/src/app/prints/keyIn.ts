import {
  asksOfSheet,
  rowOfSheet,
  sittingOfSheet,
  type GroupSheetView,
  type RecordRow,
  type SittingRow,
} from '@vane/contract';
import { v7 } from 'uuid';

/** One cell of a group sheet, as it is typed: a number, with a `c` after it when the child counted; empty when the child was not asked. */
const CELL = /^(10|\d)\s*(c?)$/i;

export const cellProblem = (text: string): boolean => text.trim() !== '' && !CELL.test(text.trim());

interface KeyedSheet extends Pick<GroupSheetView, 'code' | 'children' | 'facts' | 'session'> {
  /** By child, then by the place of the question. */
  readonly cells: ReadonlyMap<string, string>;
  /** When it was asked, milliseconds since 1970. */
  readonly askedAt: number;
}

/** @param place of the child's questions, from 0 */
export const cellName = (child: string, place: number): string => `${child} ${place}`;

/** The sheet as rows of the record. */
export function rowsOfSheet({ cells, askedAt, ...sheet }: KeyedSheet): { sitting: SittingRow; rows: RecordRow[] } {
  const rows = sheet.children.flatMap((child) =>
    asksOfSheet(sheet, child).flatMap((ask, place): RecordRow[] => {
      const found = CELL.exec(cells.get(cellName(child, place))?.trim() ?? '');
      if (!found) return [];
      const [, given = '', counted] = found;
      return [rowOfSheet(sheet.code, { id: v7(), child, ask, given, counted: Boolean(counted), askedAt })];
    }),
  );
  return { sitting: sittingOfSheet(sheet.code, askedAt), rows };
}
