import { rowOfSheet, sittingOfSheet, type GroupSheetView, type RecordRow, type SittingRow } from '@vane/contract';
import type { PlannedAsk } from '@vane/core';
import { v7 } from 'uuid';

/** One cell of a group sheet, as it is typed: a number, with a `c` after it when the child counted; empty when the child was not asked. */
const CELL = /^(10|\d)\s*(c?)$/i;

export const cellProblem = (text: string): boolean => text.trim() !== '' && !CELL.test(text.trim());

export interface KeyedSheet extends Pick<GroupSheetView, 'code' | 'children' | 'facts' | 'session'> {
  /** By child, then by fact. */
  readonly cells: ReadonlyMap<string, string>;
  /** When it was asked, milliseconds since 1970. */
  readonly askedAt: number;
}

export const cellName = (child: string, fact: string): string => `${child} ${fact}`;

/** How a child was asked a fact on a sheet; null where it was not on the child's part of it. */
export function askOf({ session }: Pick<GroupSheetView, 'session'>, child: string, fact: string): PlannedAsk | null {
  if (session === null) return { fact, form: 'symbols' };
  return session.asked[child]?.find((ask) => ask.fact === fact) ?? null;
}

/** The sheet as rows of the record. */
export function rowsOfSheet({ cells, askedAt, ...sheet }: KeyedSheet): { sitting: SittingRow; rows: RecordRow[] } {
  const rows = sheet.children.flatMap((child) =>
    sheet.facts.flatMap((fact): RecordRow[] => {
      const found = CELL.exec(cells.get(cellName(child, fact))?.trim() ?? '');
      const ask = askOf(sheet, child, fact);
      if (!found || ask === null) return [];
      const [, given = '', counted] = found;
      return [rowOfSheet(sheet.code, { id: v7(), child, ask, given, counted: Boolean(counted), askedAt })];
    }),
  );
  return { sitting: sittingOfSheet(sheet.code, askedAt), rows };
}
