import { factInPrint } from '../../facts/fact';
import type { Need, PlannedSitting } from '../../plan/classPlan';
import type { ProposedFact } from '../../plan/propose';
import type { WorkingNumber } from '../../plan/workingNumber';
import { capital, inLetters, listed } from './numbers';

/** What a planned session is about. */
export function need(of: Need): string {
  switch (of.need) {
    case 'begin':
      return 'A first look';
    case 'seeing':
      return 'Seeing at a glance';
    case 'anchor':
      return of.to === 5 ? 'How many more to five' : 'How many more to ten';
    case 'pairs':
      return `Pairs of ${inLetters(of.whole)}`;
    case 'undoing':
      return `Taking apart ${inLetters(of.whole)}`;
  }
}

const ago = (n: number): string =>
  n === 0 ? 'less than a day ago' : n === 1 ? 'yesterday' : `${inLetters(n)} days ago`;

function waited({ children, waited: longest }: PlannedSitting): string {
  if (longest === null)
    return children.every((c) => c.daysSince === null) ? 'Not asked yet.' : 'Some were never asked.';
  return children.length === 1 ? `Last asked ${ago(longest)}.` : `One of them was last asked ${ago(longest)}.`;
}

/** The first few different facts that are proposed for these reasons: sums as they are written, quantities by their number. */
function named(facts: readonly ProposedFact[], whys: readonly string[], told: Set<string>): readonly string[] {
  // What was named for one child's reason is not named again for another's.
  const found = [...new Set(facts.filter(({ why }) => whys.includes(why)).map((f) => f.fact))].filter(
    (one) => !told.has(one),
  );
  for (const one of found) told.add(one);
  const seen = [...new Set(found.filter((f) => f.startsWith('show:')).map((f) => Number(f.split(':')[1])))]
    .slice(0, 3)
    .sort((a, b) => a - b);
  const written = found
    .filter((f) => !f.startsWith('show:'))
    .slice(0, 3)
    // A fact is one thing: it is not broken over two lines.
    .map((f) => factInPrint(f).replaceAll(' ', '\u00a0'));
  return [...written, ...(seen.length > 0 ? [`seeing ${listed(seen.map(String))}`] : [])];
}

/** Why this session. */
export function reason(session: PlannedSitting): string {
  const facts = session.children.flatMap((c) => c.facts);
  if (session.need.need === 'begin')
    return `${waited(session)} A short look at numbers on the frame begins the record.`;
  const already = new Set<string>();
  const told = (
    [
      [['nearly'], 'nearly known'],
      [['unsure', 'never-asked'], 'not clear yet'],
      [['fading'], 'may be fading'],
      [['next-number'], 'next'],
    ] as const
  ).flatMap(([whys, how]) => {
    const which = named(facts, whys, already);
    return which.length > 0 ? [`${how}: ${listed(which)}`] : [];
  });
  return `${waited(session)} ${capital(told.slice(0, 2).join('; ') || 'known facts are kept warm')}.`;
}

/** What supports the working number. */
export function workingNumber({ number, allKnown, pairs }: WorkingNumber, name: string): string {
  if (allKnown) return 'Every pair up to ten that was asked reads as known.';
  if (number === null)
    return 'No pair has been asked yet: the working-number check on the carpet finds the number in a few minutes.';
  const below = [...pairs].filter(([whole]) => whole < number).flatMap(([, own]) => own.filter((p) => p.asked));
  const [known, leaning] = [below.filter((p) => p.known).length, below.filter((p) => p.leaning).length];
  const open = (pairs.get(number) ?? [])
    .filter((p) => !p.known)
    .map((p) => `${inLetters(p.first)} and ${inLetters(p.second)}`);
  const howMany = (n: number): string => (n === 0 ? 'none' : inLetters(n));
  const under =
    below.length === 0
      ? 'No pair of a smaller number has been asked.'
      : below.length === 1
        ? `One smaller pair has been asked; it is ${known === 1 ? 'known' : leaning === 1 ? 'nearly known' : 'not known yet'}.`
        : `Of ${inLetters(below.length)} smaller pairs asked, ${howMany(known)} ${known === 1 ? 'is' : 'are'} known and ${howMany(leaning)} nearly known.`;
  const own = open.length === 0 ? 'The pairs for this number are nearly secure.' : `Not secure yet: ${listed(open)}.`;
  return `${capital(name)} is working on ${inLetters(number)}. ${under} ${own}`;
}
