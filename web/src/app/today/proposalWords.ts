import type { Proposal } from '@vane/core';
import { capital, inLetters, some } from '../look/words';

const list = (items: readonly string[]): string =>
  items.length <= 1 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} and ${items[items.length - 1] ?? ''}`;

/** The numbers of these shows, each once. */
const numbers = (shows: readonly string[]): string[] => [...new Set(shows.map((fact) => fact.split(':')[1] ?? ''))];

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
  if (counted.length > 0) parts.push(`${list(counted)} on the frame ${counted.length === 1 ? 'is' : 'are'} not known yet`);
  if (unsure.length > 0) parts.push(`${list(unsure)} ${unsure.length === 1 ? 'needs' : 'need'} more answers`);
  if (parts.length === 0) parts.push(proposal.daysSince === null ? 'ten shows begin the record' : 'every number asked so far is known; keep it warm');
  return `${since(proposal)}. ${capital(parts.join('; '))}. About ${some(3, 'minute')}.`;
}
