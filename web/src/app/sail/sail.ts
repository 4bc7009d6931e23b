import type { Operation, Reading } from '@vane/core';
import { factText } from '@vane/core/facts/fact';
import { FRAME_LAYOUTS } from '@vane/core/layouts/frame';
import { SEEN_LAYOUTS } from '@vane/core/routines/routine';
import { words } from '../language/words';

export type View = Operation | 'seeing';
export const VIEWS: readonly { readonly view: View; readonly words: string }[] = [
  { view: 'seeing', words: $localize`Seeing` },
  { view: 'add', words: $localize`Adding` },
  { view: 'subtract', words: $localize`Taking away` },
  { view: 'missing', words: $localize`Missing part` },
];

/** The sail on which a fact has its place. */
export function viewOf(fact: string): View {
  if (fact.startsWith('show:')) return 'seeing';
  return fact.includes('?') || fact.startsWith('bond:') ? 'missing' : fact.includes('-') ? 'subtract' : 'add';
}

export interface SailPlace {
  readonly fact: string;
  readonly reading: Reading | null;
}
interface SailRow {
  readonly label: string;
  readonly places: readonly SailPlace[];
}

/** Other written forms of the fact at a place: the gap may stand first, the total on either side, or the pair in a part-whole picture. */
function forms(fact: string): string[] {
  const gap = /^(\d+)\+\?=(\d+)$/.exec(fact);
  return gap ? [fact, `?+${gap[1]}=${gap[2]}`, `${gap[2]}=${gap[1]}+?`, `bond:${gap[2]}:${gap[1]}`] : [fact];
}

/** The rows of a sail: for every whole its pairs by first part; or, for seeing, every layout by number. A place shows the form that has most answers. */
export function sailRows(view: View, readings: readonly Reading[]): SailRow[] {
  const byFact = new Map(readings.map((r) => [r.fact, r]));
  const place = (fact: string): SailPlace => {
    const found = forms(fact)
      .flatMap((form) => byFact.get(form) ?? [])
      .sort((a, b) => b.responses - a.responses)[0];
    return { fact: found?.fact ?? fact, reading: found ?? null };
  };
  if (view === 'seeing') {
    const others = SEEN_LAYOUTS.filter(
      (layout) =>
        !FRAME_LAYOUTS.some((f) => f === layout) &&
        readings.some((r) => r.fact.startsWith('show:') && r.fact.endsWith(`:${layout}`)),
    );
    return [...FRAME_LAYOUTS, ...others].map((layout) => ({
      label: words.layouts[layout],
      places: Array.from({ length: (layout === 'five' ? 5 : 10) + 1 }, (_, n) => place(`show:${n}:${layout}`)),
    }));
  }
  return Array.from({ length: 11 }, (_, whole) => ({
    label: String(whole),
    places: Array.from({ length: whole + 1 }, (_, first) => place(factText(view, whole, first))),
  }));
}
