import { NotAFact, parseFact, type FactKind } from './fact';

/** A question that is asked and recorded: a fact within ten, or one of the questions beyond. */
interface Question {
  readonly kind: FactKind;
  readonly text: string;
  /** The right answer as it is given; null when there are several, as with the ways to make a number. */
  readonly answer: string | null;
}

const LARGEST_TOTAL = 20;

/** Largest number on either side, and how a question of this form is answered; null when the numbers do not fit it. */
type Form = readonly [form: RegExp, kind: FactKind, answer: (...parts: number[]) => string | null | undefined];

const beyondTen = (whole: number, answer: number): string | undefined =>
  whole > 10 && whole <= LARGEST_TOTAL && answer >= 0 ? String(answer) : undefined;
const upTo = (most: number, answer: number): string | undefined =>
  answer >= 0 && answer <= most ? String(answer) : undefined;
const within = (most: number, n: number, answer: number): string | undefined =>
  n <= most ? String(answer) : undefined;
/** Of three parts the two that make ten, as `3+7`. */
function makesTen(...[a = 0, b = 0, c = 0]: number[]): string | undefined {
  const pairs = [[a, b], [a, c], [b, c]] as const; // prettier-ignore
  return pairs.find(([one, other]) => one + other === 10)?.join('+');
}
const side = (left: number, right: number): string => {
  if (left === right) return 'same';
  return left > right ? 'left' : 'right';
};

const FORMS: readonly Form[] = [
  [/^(\d{1,2})\+(\d{1,2})$/, 'bridge', (a, b) => beyondTen(a + b, a + b)],
  [/^(\d{1,2})-(\d{1,2})$/, 'bridge', (c, b) => beyondTen(c, c - b)],
  [/^(\d{1,2})\+\?=(\d{1,2})$/, 'bridge', (a, c) => beyondTen(c, c - a)],
  // Moved to the first number to make it ten.
  [/^(\d)\+(\d):move$/, 'bridge', (a, b) => (b >= 10 - a ? upTo(10, 10 - a) : undefined)],
  [/^(\d{1,2})\+(\d{1,2})\+(\d{1,2})$/, 'three', (a, b, c) => upTo(LARGEST_TOTAL, a + b + c)],
  [/^(\d{1,2})\+\?\+(\d{1,2})=(\d{1,2})$/, 'three', (a, c, whole) => upTo(LARGEST_TOTAL, whole - a - c)],
  [/^ways:(\d{1,2})$/, 'ways', (whole) => (whole <= 10 ? null : undefined)],
  [/^groups:(\d{1,2}):(\d{1,2})$/, 'groups', (count, of) => upTo(LARGEST_TOTAL, count * of)],
  [/^more:(\d{1,2}):(\d{1,2})$/, 'compare', side],
  [/^same:(\d{1,2}):(\d{1,2})$/, 'compare', (left, right) => (left === right ? 'same' : 'different')],
  [/^groups:(\d{1,2}):(\d{1,2}):count$/, 'groups', (count, of) => within(LARGEST_TOTAL, count * of, count)],
  [/^ten:(\d)\+(\d)\+(\d)$/, 'three', makesTen],
  // What can be counted in the picture: the boxes of a frame, the rows of a number on it, one of two sides, what is left over, a number put down.
  [/^boxes:(\d{1,2})$/, 'part', (n) => upTo(10, n)],
  [/^boxes-(?:top|below):(\d{1,2})$/, 'part', (n) => within(10, n, n / 2)],
  [/^top:(\d{1,2})$/, 'part', (n) => within(10, n, Math.min(5, n))],
  [/^below:(\d{1,2})$/, 'part', (n) => within(10, n, Math.max(0, n - 5))],
  [/^side:(\d{1,2}):(\d{1,2})$/, 'part', (first, second) => within(LARGEST_TOTAL, first + second, first)],
  [/^left:(\d{1,2})-(\d{1,2})$/, 'part', (whole, gone) => upTo(10, whole - gone)],
  [/^(?:start|anywhere):(\d{1,2})$/, 'part', (n) => upTo(10, n)],
];

/** Whether a sum goes past ten, or has two parts that make it. */
function hidesTen(sum: string): boolean {
  const parts = sum.split('+').map(Number);
  return parts.length === 2
    ? parts[0]! + parts[1]! > 10
    : parts.some((a, i) => parts.some((b, j) => i !== j && a + b === 10));
}

/**
 * Reads what was asked: every fact of `parseFact`, and beyond them `8+5`, `13-5` (past ten), `8+5:move` (how many move to make ten), `3+7+2`, `3+?+2=10`,
 * `ways:6`, `groups:4:2` (four groups of two), `more:4:6` (which side has more), `same:4:4`,
 * `check:3+4=8` (an answer to judge), `hides:8+5:3+4` (in which does a ten hide), `ten:3+7+2` (which two make ten), `groups:4:2:count` (how many groups), and what can be counted in a picture:
 * `boxes:10`, `boxes-top:10`, `boxes-below:10`, `top:7`, `below:7`, `side:4:3` (how many on the side of the four), `left:5-1`, `start:1`, `anywhere:3`.
 * @throws NotAFact when the text is none of these
 * @example parseQuestion('8+5').answer // '13'
 */
export function parseQuestion(text: string): Question {
  const claim = /^check:(.+)=(\d{1,2})$/.exec(text);
  if (claim)
    return { kind: 'check', text, answer: String(parseQuestion(claim[1]!).answer) === claim[2] ? 'yes' : 'no' };
  const hides = /^hides:(.+)$/.exec(text);
  if (hides) return { kind: 'bridge', text, answer: hides[1]!.split(':').find(hidesTen) ?? null };
  for (const [form, kind, answerOf] of FORMS) {
    const found = form.exec(text);
    if (!found) continue;
    const answer = answerOf(...found.slice(1).map(Number));
    if (answer !== undefined) return { kind, text, answer };
  }
  const fact = parseFact(text);
  return { kind: fact.kind, text, answer: String(fact.answer) };
}

/** The one right answer; null where there is none, as with the ways to make a number, and for a text that another program wrote. */
export function answerTo(text: string): string | null {
  try {
    return parseQuestion(text).answer;
  } catch (error) {
    if (error instanceof NotAFact) return null;
    throw error;
  }
}

/** True when the text is a fact within ten, as `parseFact` reads it. */
export function isFact(text: string): boolean {
  try {
    parseFact(text);
    return true;
  } catch (error) {
    if (error instanceof NotAFact) return false;
    throw error;
  }
}
