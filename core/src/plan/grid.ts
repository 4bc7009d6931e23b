import { isNumberFact, parseFact } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { grouped } from '../statistics/grouped';
import type { PlannedSitting } from './classPlan';
import { isAt, nameOf, type Need } from './need';

/** A child's fact as a session's picture shows it. */
export interface GridCell {
  readonly fact: string;
  readonly reading: Reading | null;
  /** Whether the session asks it. */
  readonly asked: boolean;
}
interface GridRow {
  readonly child: string;
  /** Whole days since the child was last asked; null = never. */
  readonly daysSince: number | null;
  /** They are counted from a day that is planned, and has not been. */
  readonly ahead: boolean;
  /** One for each column of its group; where there are none, the child's own. */
  readonly cells: readonly GridCell[];
}
interface GridGroup {
  readonly need: Need;
  /** What the columns are: facts of the need, in order; null = each child is asked something else, and there are no columns. */
  readonly facts: readonly string[] | null;
  readonly rows: readonly GridRow[];
  /** Whether the session asks anything beside its need. */
  readonly more: boolean;
}

/** Columns that fit beside each other: what is asked stays, what is only known of goes first. */
const MOST = 10;

/**
 * A session as a picture: for each need the facts of it that are asked or were, and how they stand with each child.
 * @param readings of the class
 */
export function sessionGrid({ children }: Pick<PlannedSitting, 'children'>, readings: readonly Reading[]): GridGroup[] {
  const here = new Set(children.map(({ child }) => child));
  const of = new Map(readings.flatMap((one) => (here.has(one.child) ? [[`${one.child} ${one.fact}`, one]] : [])));
  return [...grouped(children, ({ need }) => nameOf(need)).values()].map((own) => {
    const { need } = own[0]!;
    const toAsk = own.map(({ facts }) => new Set(facts.flatMap(({ fact }) => (isAt(need, fact) ? [fact] : []))));
    const asked = new Set(toAsk.flatMap((facts) => [...facts]));
    const more = own.flatMap(({ child }) =>
      need.need === 'finding out'
        ? []
        : readings.flatMap((r) => (r.child === child && r.responses > 0 && isAt(need, r.fact) ? [r.fact] : [])),
    );
    const columns = asked.size > MOST ? null : inOrder([...new Set([...asked, ...inOrder(more)])].slice(0, MOST));
    return {
      need,
      facts: columns,
      more: own.some(({ facts }) => facts.some(({ fact }) => !isAt(need, fact))),
      rows: own.map(({ child, daysSince, ahead = false }, i) => ({
        child,
        daysSince,
        ahead,
        cells: (columns ?? [...toAsk[i]!]).map((fact) => ({
          fact,
          reading: of.get(`${child} ${fact}`) ?? null,
          asked: toAsk[i]!.has(fact),
        })),
      })),
    };
  });
}

const KINDS = ['show', 'add', 'bond', 'missing', 'subtract'];
/** Sums first, then pairs with a missing part and take-away; each by its numbers. */
function inOrder(facts: readonly string[]): string[] {
  const key = (text: string): readonly number[] => {
    const fact = parseFact(text);
    return [KINDS.indexOf(fact.kind), ...(isNumberFact(fact) ? [fact.whole, ...fact.parts] : [fact.answer])];
  };
  const keys = new Map(facts.map((text) => [text, key(text)]));
  return [...facts].sort((a, b) => {
    const [ka, kb] = [keys.get(a)!, keys.get(b)!];
    const at = ka.findIndex((n, i) => n !== kb[i]);
    return at === -1 ? (a < b ? -1 : 1) : ka[at]! - kb[at]!;
  });
}
