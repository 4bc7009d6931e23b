import { listed } from './numbers';

/** What is wrong with a cell: nothing in it, none of the words that may stand there, no number or none in reach, no moment, too long, or as `detail` says. */
export type CellProblem = 'empty' | 'none-of' | 'no-number' | 'out-of-reach' | 'no-date' | 'too-long' | 'other';

/** What became of the lines of a file. */
export const imports = {
  /** @param detail the words that may stand there, or what is wrong */
  cell: (column: string, text: string, problem: CellProblem, detail: string): string => {
    switch (problem) {
      case 'empty':
        return `${column}: there is nothing in it.`;
      case 'none-of':
        return `${column}: “${text}” is none of ${detail}.`;
      case 'no-number':
        return `${column}: “${text}” is not a number.`;
      case 'out-of-reach':
        return `${column}: “${text}” is too small or too large.`;
      case 'no-date':
        return `${column}: “${text}” is not a date and time that Vane understands. Write it as 2026-12-01 09:15.`;
      case 'too-long':
        return `${column}: “${text.slice(0, 40)} …” is too long.`;
      case 'other':
        return `${column}: ${detail}.`;
    }
  },
  endsBefore: (column: string): string => `The line ends before ${column}.`,
  unreadable: (detail: string): string => `The line cannot be read: ${detail}.`,
  noChild: (name: string, meant: readonly string[]): string =>
    meant.length === 0
      ? `child: there is no “${name}” in this class.`
      : `child: there is no “${name}” in this class. Do you mean ${listed(meant)}?`,
  sameId: (line: number): string => `response_id: line ${line} has the same and says something else.`,
  otherClassAnswer: 'response_id: another class has an answer with this one.',
  otherClassSession: 'sitting: it belongs to another class.',
  different: (columns: readonly string[]): string => `${listed(columns)}: Vane has something else, and keeps it.`,
  missing: (columns: readonly string[]): string => `line 1: these columns are missing: ${columns.join(', ')}`,
  emptyFile: 'the file is empty',
  mostlyBad: (refused: number, read: number, line: number, reason: string): string =>
    `${refused} of its first ${read} lines cannot be imported; the last of them is line ${line}: ${reason}`,
};
