import { toRow, type RecordRow, type SittingRow } from '@vane/contract';
import { NOTHING_ADDED, parseQuestion } from '@vane/core';
import { v7 } from 'uuid';

/** One cell of a group sheet, as it is typed: a number, with a `c` after it when the child counted; empty when the child was not asked. */
const CELL = /^(10|\d)\s*(c?)$/i;

export const cellProblem = (text: string): boolean => text.trim() !== '' && !CELL.test(text.trim());

export interface KeyedSheet {
  readonly code: string;
  readonly children: readonly string[];
  readonly facts: readonly string[];
  /** By child, then by fact. */
  readonly cells: ReadonlyMap<string, string>;
  /** When it was asked, milliseconds since 1970. */
  readonly askedAt: number;
}

export const cellName = (child: string, fact: string): string => `${child} ${fact}`;

/** The sheet as rows of the record: right or wrong and what the helper saw, without times, since nobody took them. */
export function rowsOfSheet({ code, children, facts, cells, askedAt }: KeyedSheet): {
  sitting: SittingRow;
  rows: RecordRow[];
} {
  const sitting: SittingRow = {
    id: `sheet-${code}`,
    routine: 'group-sheet',
    started_at: new Date(askedAt).toISOString(),
    answer_mode: 'spoken',
    settings: null,
  };
  const rows = children.flatMap((child) =>
    facts.flatMap((fact): RecordRow[] => {
      const found = CELL.exec(cells.get(cellName(child, fact))?.trim() ?? '');
      if (!found) return [];
      const given = found[1] ?? '';
      const { kind, answer } = parseQuestion(fact);
      return [
        toRow({
          ...NOTHING_ADDED,
          id: v7(),
          child,
          sitting: sitting.id,
          shownAt: askedAt,
          kind,
          fact,
          answerMode: 'spoken',
          exposureMs: null,
          responseMs: null,
          given,
          outcome: given === answer ? 'correct' : 'wrong',
          sign: found[2] ? 'counted' : null,
        }),
      ];
    }),
  );
  return { sitting, rows };
}
