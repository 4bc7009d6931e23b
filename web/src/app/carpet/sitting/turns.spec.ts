import { isRight, makeAsk, type Answered, type Ask } from '@vane/core';
import {
  advance,
  beginTurns,
  sitterOf,
  takeOver,
  toggleAway,
  turnCounts,
  turnOf,
  type Follow,
  type TurnRules,
  type Turns,
} from './turns';

const ask = (fact: string): Ask => makeAsk(fact, { show: 'nothing' }, { say: 'thanks' });
const answered = (one: Ask): Answered => ({
  ask: one,
  given: '',
  right: isRight(one, ''),
  responseMs: null,
  sign: null,
});
const [ivo, fenn, cleo] = ['Ivo', 'Fenn', 'Cleo'].map((nickname) => ({ id: nickname.toLowerCase(), nickname })) as [
  Sit,
  Sit,
  Sit,
];
type Sit = { id: string; nickname: string };

const alone = (follow: Follow): TurnRules => ({ follow, shared: false });
const next = (rules: TurnRules, line: Turns) => advance(rules, line, answered(turnOf(line).ask));
function played(rules: TurnRules, from: Turns, most = 20): string[] {
  const went: string[] = [];
  let line = from;
  for (let i = 0; i < most; i++) {
    went.push(`${sitterOf(line).nickname} ${turnOf(line).ask.fact}`);
    const then = next(rules, line);
    if (!then.goes) return went;
    line = then.line;
  }
  throw new Error('the line does not end');
}

describe('the line of turns', () => {
  it('asks what follows once a child’s own questions have run out, each child for itself', () => {
    const seen: [string, number][] = [];
    const follow: Follow = (child, soFar) => {
      seen.push([child, soFar.length]);
      return soFar.length < 2 ? [ask('2+2')] : [];
    };
    const line = beginTurns([ivo, fenn], [{ child: 'ivo', ask: ask('1+1') }, { child: 'fenn', ask: ask('1+2') }]); // prettier-ignore
    expect(played(alone(follow), line)).toEqual(['Ivo 1+1', 'Fenn 1+2', 'Ivo 2+2', 'Fenn 2+2']);
    expect(seen).toEqual([['ivo', 1], ['fenn', 1], ['ivo', 2], ['fenn', 2]]); // prettier-ignore
  });

  it('who was taken for another takes over its turns and what was answered', () => {
    const lengths: number[] = [];
    const follow: Follow = (_, soFar) => (lengths.push(soFar.length), []);
    const begun = beginTurns([ivo], ['1+1', '1+2', '2+2'].map((fact) => ({ child: 'ivo', ask: ask(fact) }))); // prettier-ignore
    const line = takeOver(next(alone(follow), begun).line, cleo);
    expect(line.children).toEqual([cleo]);
    expect(played(alone(follow), line)).toEqual(['Cleo 1+2', 'Cleo 2+2']);
    expect(lengths).toEqual([3]);
  });

  it('shows how many turns each has had, whose go it is, and who is away', () => {
    const turns = ['ivo', 'fenn', 'cleo', 'ivo', 'fenn', 'cleo'].map((child) => ({ child, ask: ask('1+1') }));
    const rules = alone(() => []);
    const second = next(rules, beginTurns([ivo, fenn, cleo], turns)).line;
    const without = toggleAway(rules, second, 'cleo', second.index);
    expect(turnCounts(without).map((p) => [p.nickname, p.had, p.now, p.away])).toEqual([
      ['Ivo', 1, false, false],
      ['Fenn', 0, true, false],
      ['Cleo', 0, false, true],
    ]);
    const line = toggleAway(rules, without, 'cleo', without.index);
    expect(played(rules, line).filter((turn) => turn.startsWith('Cleo'))).toHaveLength(2);
  });
});
