import type { ChildNeed } from '../../plan/classPlan';
import type { Need } from '../../plan/need';
import type { ProposedFact } from '../../plan/propose';
import { standingOf, STANDINGS, type Standing } from '../../plan/standing';
import type { PairSoFar, WorkingNumber } from '../../plan/workingNumber';
import { fact } from './facts';
import { capital, formOf, inLetters, listed } from './numbers';
import { standings } from './readings';

/** The wholes of a session's children: "five", "five and six". */
const wholesOf = (needs: readonly Need[]): string =>
  listed(
    [...new Set(needs.flatMap((one) => ('whole' in one ? [one.whole] : [])))].sort((a, b) => a - b).map(inLetters),
  );

const titleOf = (needs: readonly Need[], first: Need): string => {
  switch (first.need) {
    case 'begin':
      return 'A first look';
    case 'finding out':
      return 'Finding out what is known';
    case 'seeing':
      return 'Seeing at a glance';
    case 'anchor':
      return first.to === 5 ? 'How many more to five' : 'How many more to ten';
    case 'pairs':
      return `Pairs of ${wholesOf(needs)}`;
    case 'undoing':
      return `Take away and missing part: ${wholesOf(needs)}`;
  }
};

/** Title of a planned session: what most of its questions are about; several where children were swapped. */
export function title(needs: readonly Need[]): string {
  const kinds = new Map<string, Need[]>();
  for (const one of needs) {
    const kind = one.need === 'anchor' ? `anchor ${one.to}` : one.need;
    kinds.set(kind, [...(kinds.get(kind) ?? []), one]);
  }
  return [...kinds.values()].map((own) => titleOf(own, own[0]!)).join('; ');
}

const ago = (n: number): string => (n === 0 ? 'today' : n === 1 ? 'yesterday' : `${n} days ago`);
/** When a child was last asked, in whole days; null = never. Where that is planned and has not been, it is told as that. */
export const lastAsked = (days: number | null, ahead = false): string =>
  days === null ? 'not yet' : ahead ? `planned again after ${days} ${formOf(days, 'day', 'days')}` : ago(days);
/** One child's fact in a session's picture, as it is heard. */
export const cell = (text: string, standing: Standing, asked: boolean): string =>
  `${fact(text)}: ${standings[standing]}${asked ? ', asked in this session' : ''}`;

/** The first few different facts that stand so: sums as they are written, quantities by their number. */
function named(facts: readonly ProposedFact[], standing: Standing): readonly string[] {
  const own = facts.filter(({ role, reading }) => role !== 'sure' && standingOf(reading) === standing);
  const found = [...new Set(own.map((f) => f.fact))];
  const seen = [...new Set(found.filter((f) => f.startsWith('show:')).map((f) => Number(f.split(':')[1])))]
    .slice(0, 3)
    .sort((a, b) => a - b);
  const written = found
    .filter((f) => !f.startsWith('show:'))
    .slice(0, 2)
    // A fact is one thing: it is not broken over two lines.
    .map((f) => fact(f).replaceAll(' ', '\u00a0'));
  return [...written, ...(seen.length > 0 ? [`seeing ${listed(seen.map(String))}`] : [])];
}

/** How facts of a session stand, as their reason: what is asked to be learned before what is known. */
const STANDS = [...STANDINGS.slice(1), STANDINGS[0]];
const said = (standing: Standing): string => (standing === 'known' ? 'to keep practising' : standings[standing]);

/** Why this need, where it is about a smaller number than the child's own. */
function because({ need, behind }: ChildNeed): string[] {
  if (need.need !== 'undoing' || !behind) return [];
  const whole = inLetters(need.whole);
  if (behind.asked === 0) return [`take away and missing part of ${whole} come before those of a larger number`];
  const sums =
    behind.known === behind.asked
      ? `the sums of ${whole} are known`
      : `${behind.known} of ${behind.asked} sums of ${whole} are known`;
  return [`${sums}, now take away and missing part`];
}

/** Why a child is in a session: "nearly known: 2 + 6 and 6 − 3; last asked nine days ago". Every word is how the fact stands (`standingOf`). */
export function reason(child: ChildNeed): string {
  const { need, facts, daysSince, ahead = false } = child;
  if (need.need === 'begin') return 'not asked yet; small amounts on the five frame begin the record';
  const told = STANDS.flatMap((standing) => {
    const which = named(facts, standing);
    return which.length > 0 ? [`${said(standing)}: ${listed(which)}`] : [];
  });
  const asked = daysSince === null ? [] : [`${ahead ? '' : 'last asked '}${lastAsked(daysSince, ahead)}`];
  return [...because(child), ...told.slice(0, 2), ...asked].join('; ');
}

/** In which ways pairs were asked, each told once, as a sum where it was: " (seven as sums, two as bonds)"; nothing where all were sums. */
function asWhat(pairs: readonly PairSoFar[]): string {
  const of = pairs.map(({ asked }) => WAYS.find(([kind]) => asked.includes(kind)));
  const ways = WAYS.map((way) => ({ way: way[1], n: of.filter((one) => one === way).length })).filter(({ n }) => n > 0);
  return ways.every(({ way }) => way === 'as sums')
    ? ''
    : ` (${listed(ways.map(({ way, n }) => `${inLetters(n)} ${way}`))})`;
}
const WAYS = [
  ['add', 'as sums'],
  ['bond', 'as bonds'],
  ['missing', 'as missing part'],
  ['subtract', 'as take-away'],
] as const;

/** What supports the working number. */
export function workingNumber({ number, allKnown, pairs }: WorkingNumber, name: string): string {
  // A pair is one thing: it is not broken over two lines.
  const written = (all: readonly PairSoFar[]): string[] => all.map((p) => `${p.first}\u00a0+\u00a0${p.second}`);
  if (allKnown) {
    const open = [...pairs].flatMap(([, own]) =>
      own.filter(({ standing }) => standing !== 'known' && standing !== 'not asked'),
    );
    return open.length === 0
      ? 'Every pair up to ten that was asked is known.'
      : `${capital(name)} is going on past ten. Not known yet: ${listed(written(open))}.`;
  }
  if (number === null)
    return 'No pair has been asked yet: the working-number check on the carpet finds the number in a few minutes.';
  const below = [...pairs].flatMap(([whole, own]) =>
    whole < number ? own.filter(({ standing }) => standing !== 'not asked') : [],
  );
  const count = (standing: Standing): number => below.filter((p) => p.standing === standing).length;
  const [known, leaning] = [count('known'), count('nearly known')];
  const open = written((pairs.get(number) ?? []).filter(({ standing }) => standing !== 'known'));
  const ways = below.length > 1 ? asWhat(below) : '';
  const under =
    below.length === 0
      ? 'No pair of a smaller number has been asked.'
      : below.length === 1
        ? `One smaller pair has been asked; it is ${known === 1 ? 'known' : leaning === 1 ? 'nearly known' : 'not known yet'}.`
        : known === below.length
          ? `All ${inLetters(below.length)} smaller pairs asked${ways} are known.`
          : `Of ${inLetters(below.length)} smaller pairs asked${ways}, ${known === 0 ? 'none' : inLetters(known)} ${known === 1 ? 'is' : 'are'} known${leaning === 0 ? '' : ` and ${inLetters(leaning)} nearly known`}.`;
  const own = open.length === 0 ? 'The pairs for this number are nearly secure.' : `Not secure yet: ${listed(open)}.`;
  return `${capital(name)} is working on ${inLetters(number)}. ${under} ${own}`;
}
