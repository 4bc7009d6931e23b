import type { Proposal } from '@vane/core';
import { capital, inLetters, some } from '../look/words';

const list = (items: readonly string[]): string =>
  items.length <= 1 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} and ${items[items.length - 1] ?? ''}`;

/** The numbers of these shows, each once, in rising order. */
const numbers = (shows: readonly string[]): number[] => [...new Set(shows.map((fact) => Number(fact.split(':')[1])))].sort((a, b) => a - b);

/** Numbers as they are said: "6 to 9" for three and more in a row. */
function runs(sorted: readonly number[]): string[] {
  const out: number[][] = [];
  for (const n of sorted) {
    const last = out[out.length - 1];
    if (last?.[last.length - 1] === n - 1) last.push(n);
    else out.push([n]);
  }
  return out.flatMap((run) => (run.length >= 3 ? [`${run[0]} to ${run[run.length - 1]}`] : run.map(String)));
}

function since({ daysSince }: Proposal): string {
  if (daysSince === null) return 'Not asked yet';
  if (daysSince === 0) return 'Asked today';
  return daysSince === 1 ? 'Last asked yesterday' : `Last asked ${inLetters(daysSince)} days ago`;
}

export const proposalTitle = (name: string): string => `${name}: flash and say`;

/** Why this child and what for, in one line. */
export function proposalReason(proposal: Proposal): string {
  const counted = numbers(proposal.counted);
  const unsure = numbers(proposal.unsure).filter((n) => !counted.includes(n));
  const parts: string[] = [];
  if (counted.length > 0) parts.push(`${list(runs(counted))} on the frame ${counted.length === 1 ? 'is' : 'are'} not known yet`);
  if (unsure.length > 0) parts.push(`${list(runs(unsure))} ${unsure.length === 1 ? 'needs' : 'need'} more answers`);
  if (parts.length === 0) parts.push(proposal.daysSince === null ? 'ten shows begin the record' : 'every number asked so far is known; keep it warm');
  return `${since(proposal)}. ${capital(parts.join('; '))}. About ${some(3, 'minute')}.`;
}
