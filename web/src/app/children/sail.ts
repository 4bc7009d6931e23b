import { factText, FRAME_LAYOUTS, capacity, type Operation, type Reading } from '@vane/core';
import { LAYOUT_WORDS } from '../look/words';

export type View = Operation | 'seeing';
export const VIEWS: readonly { readonly view: View; readonly words: string }[] = [
  { view: 'seeing', words: 'Seeing' },
  { view: 'add', words: 'Adding' },
  { view: 'subtract', words: 'Taking away' },
  { view: 'missing', words: 'Missing part' },
];

/** The sail on which a fact has its place. */
export function viewOf(fact: string): View {
  if (fact.startsWith('show:')) return 'seeing';
  return fact.includes('?') ? 'missing' : fact.includes('-') ? 'subtract' : 'add';
}

export interface SailPlace {
  readonly fact: string;
  readonly reading: Reading | null;
}
export interface SailRow {
  readonly label: string;
  readonly places: readonly SailPlace[];
}

/** The rows of a sail: for every whole its pairs by first part; or, for seeing, every layout by number. */
export function sailRows(view: View, readings: readonly Reading[]): SailRow[] {
  const byFact = new Map(readings.map((r) => [r.fact, r]));
  const place = (fact: string): SailPlace => ({ fact, reading: byFact.get(fact) ?? null });
  if (view === 'seeing') {
    return FRAME_LAYOUTS.map((layout) => ({
      label: LAYOUT_WORDS[layout],
      places: Array.from({ length: capacity(layout) + 1 }, (_, n) => place(`show:${n}:${layout}`)),
    }));
  }
  return Array.from({ length: 11 }, (_, whole) => ({
    label: String(whole),
    places: Array.from({ length: whole + 1 }, (_, first) => place(factText(view, whole, first))),
  }));
}
