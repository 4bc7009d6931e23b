import fc from '../testing/property';
import { makeAsk, type Ask } from '../routines/routine';
import { removeChild, returnChild, dealTurns, postponeTurn, sparing, type Turn } from './turns';

const ask = (fact: string): Ask => makeAsk(fact, { show: 'nothing' }, { say: 'thanks' });
const groups = (...sizes: number[]) =>
  sizes.map((size, c) => ({ child: 'abcdef'[c]!, asks: Array.from({ length: size }, (_, i) => ask(`${c}+${i}`)) }));
const line = (turns: readonly Turn[]): string => turns.map((t) => t.child).join('');

describe('turns in a group', () => {
  it('go round, and nobody goes twice before everybody went once', () => {
    expect(line(dealTurns(groups(3, 3, 3)))).toBe('abcabcabc');
    expect(line(dealTurns(groups(2, 4, 1)))).toBe('abcabbb');
    expect(dealTurns([])).toEqual([]);
  });

  it('ask nobody what another child has just answered, or it turned round, where another question can be had', () => {
    const own = (child: string, ...facts: string[]) => ({ child, asks: facts.map(ask) });
    const facts = (turns: readonly Turn[]): string[] => turns.map((t) => `${t.child} ${t.ask.fact}`);
    const dealt = dealTurns([own('a', '2+3', '4+1'), own('b', '3+2', '5+1'), own('c', '2+3')]);
    expect(facts(dealt)).toEqual(['a 2+3', 'b 5+1', 'c 2+3', 'a 4+1', 'b 3+2']);
    // Amounts that are shown have to be seen.
    expect(facts(dealTurns([own('a', 'show:7:dice'), own('b', 'show:7:dice', 'show:4:dice')]))[1]).toBe(
      'b show:7:dice',
    );
  });

  it('spare what is asked next, with all that belongs to it', () => {
    const [first, second, third] = [ask('2+3'), { ...ask('5-3'), goesOn: true }, ask('show:4:dice')];
    const left = (...facts: string[]) => sparing([first, second, third], facts).map(({ fact }) => fact);
    expect(left('3+2')).toEqual(['show:4:dice']);
    expect(left('show:4:dice')).toEqual(['2+3', '5-3']);
    expect(left('show:4:scatter')).toEqual(['2+3', '5-3', 'show:4:dice']);
    expect(left('3+2', 'show:4:dice')).toEqual(['2+3', '5-3', 'show:4:dice']);
  });

  it('a child may go later, be away, and be put back where it has had fewest', () => {
    const turns = dealTurns(groups(2, 2, 2));
    expect(line(postponeTurn(turns, 0))).toBe('bacabc');
    expect(line(postponeTurn(turns, 5))).toBe('abcabc');
    const gone = removeChild(turns, 1, 'b');
    expect([line(gone.turns), line(gone.taken)]).toEqual(['acac', 'bb']);
    expect(line(returnChild(gone.turns, 3, gone.taken))).toBe('acabcb');
  });

  it('tell children apart: later goes behind another child, away leaves what is past, back looks at what was had', () => {
    const [a, b, c] = groups(2, 3, 1).map(({ child, asks }) => asks.map((one): Turn => ({ child, ask: one })));
    expect(line(postponeTurn([a![0]!, b![0]!, b![1]!, c![0]!], 1))).toBe('acbb');
    expect(line(removeChild(dealTurns(groups(2, 2, 2)), 2, 'a').turns)).toBe('abcbc');
    expect(line(returnChild([...a!, ...b!], 2, [a![0]!]))).toBe('aababb');
  });

  it('lose no question, whatever is done', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 5 }), { minLength: 1, maxLength: 5 }),
        fc.nat(20),
        fc.nat(4),
        (sizes, at, who) => {
          const turns = dealTurns(groups(...sizes));
          const place = at % turns.length;
          const child = 'abcdef'[who % sizes.length]!;
          const sorted = (some: readonly Turn[]): string[] => some.map((t) => t.child + t.ask.fact).sort();
          const { turns: left, taken } = removeChild(postponeTurn(turns, place), place, child);
          expect(sorted([...left, ...taken])).toEqual(sorted(turns));
          const again = returnChild(left, Math.min(place, left.length), taken);
          expect(sorted(again)).toEqual(sorted(turns));
          // Each child's questions keep their order.
          for (const c of new Set(again.map((t) => t.child)))
            expect(again.filter((t) => t.child === c)).toHaveLength(turns.filter((t) => t.child === c).length);
        },
      ),
    );
  });
});
