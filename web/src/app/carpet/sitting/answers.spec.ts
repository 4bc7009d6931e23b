import { newBoard, makeAsk, talk, toggle, type Ask, type BoardPlan, type Turn } from '@vane/core';
import { asked, playSitting, written } from '../../testing/played';

const NOTHING = { show: 'nothing' } as const;
const FRAME: BoardPlan = { layout: 'frame-fives', frames: 1, start: [0], moves: false, byRule: true };
const built = makeAsk('match:3', NOTHING, { say: 'fill', n: 3 }, { want: { by: 'board', plan: FRAME } });
const way = (...accepts: string[]): Ask =>
  makeAsk('ways:4', NOTHING, { say: 'a-way', whole: 4 }, { want: { by: 'pair' }, accepts });

describe('answers of other kinds than a number', () => {
  it('what was built: the number is right, and how it lies is told apart', async () => {
    const { sitting, keeper, shown } = playSitting([built]);
    let board = newBoard(FRAME);
    for (const box of [0, 1, 5]) board = toggle(board, box);
    sitting.attachBoard(() => board);
    sitting.goOn(0);
    sitting.goOn(shown() + 4000);
    expect(sitting.slip()).toBe('second-row-too-soon');
    sitting.toggleSign('counted');
    sitting.toggleFiner('lips');
    await written();
    expect(keeper.last()).toMatchObject([
      {
        kind: 'match',
        given: '3',
        outcome: 'correct',
        answer_mode: 'build',
        observed: 'counted:second-row-too-soon lips',
        response_ms: 4000,
      },
    ]);
  });

  it('what was built with real counters is marked by its number', async () => {
    const { sitting, keeper, shown } = playSitting([built]);
    sitting.goOn(0);
    sitting.mark(4, shown() + 3000);
    await written();
    expect(keeper.last()).toMatchObject([{ given: '4', outcome: 'wrong', observed: '' }]);
  });

  it('a pair comes in two parts; undo takes back the first, or the pair', async () => {
    const { sitting, keeper, shown } = playSitting([way('1+3', '3+1')]);
    sitting.goOn(0);
    sitting.mark(2, 0);
    expect(sitting.firstPart()).toBeNull();
    shown();
    sitting.mark(2, 1);
    expect([sitting.firstPart(), sitting.canUndo()]).toEqual(['2', true]);
    sitting.undo();
    sitting.mark(3, 2);
    sitting.mark(1, 3);
    expect(sitting.given()).toBe('3+1');
    sitting.undo();
    sitting.mark(1, 4);
    sitting.mark(1, 5);
    await written();
    expect(keeper.last().map((r) => [r.given, r.outcome, r.void])).toEqual([
      ['3+1', 'correct', 'undone'],
      ['1+1', 'wrong', ''],
    ]);
  });

  it('a choice is recorded by its word, a number past ten by its key and ten', async () => {
    const { sitting, keeper, shown } = playSitting([
      makeAsk(
        'same:3:4',
        NOTHING,
        { say: 'same-or-different' },
        { want: { by: 'choice', among: ['same', 'different'] } },
      ),
      makeAsk('8+5', NOTHING, { say: 'sentence', fact: '8+5' }, { want: { by: 'number', to: 20 } }),
    ]);
    sitting.goOn(0);
    shown();
    sitting.mark(7, 0);
    expect(sitting.moment()).toBe('asking');
    sitting.mark(2, 1);
    sitting.goOn(2);
    shown();
    sitting.mark(3, 3);
    await written();
    expect(keeper.last().map((r) => [r.kind, r.given, r.outcome])).toEqual([
      ['compare', 'different', 'correct'],
      ['bridge', '13', 'correct'],
    ]);
  });

  it('talk is gone through without a trace, and what follows depends on the answers', async () => {
    const cut = makeAsk(null, NOTHING, { say: 'where-to-cut' }, { want: { by: 'cut', count: 5, cuts: [2] } });
    const asked: string[] = [];
    const { sitting, keeper, shown } = playSitting(
      [talk(NOTHING, { say: 'tell-one', whole: 5 }), cut],
      {},
      {
        open: true,
        follow: (_, soFar) => {
          asked.push(soFar.map((a) => a.given).join());
          const last = soFar[soFar.length - 1]!;
          return last.ask.want.by === 'cut'
            ? [makeAsk(`bond:5:${last.given}`, NOTHING, { say: 'other-side', first: 3 }, { aid: 'picture' })]
            : [];
        },
      },
    );
    sitting.goOn(0);
    shown();
    sitting.answer('3', 0);
    expect(sitting.ask().want.by).toBe('talk');
    sitting.goOn(1);
    shown();
    sitting.mark(2, 2);
    sitting.mark(5, 3);
    expect(sitting.moment()).toBe('asking');
    sitting.mark(3, 4);
    sitting.undo();
    sitting.mark(3, 5);
    sitting.goOn(6);
    shown();
    sitting.mark(2, 7);
    sitting.goOn(8);
    expect(sitting.moment()).toBe('done');
    expect(asked).toEqual([',3', ',3,2']);
    await written();
    expect(keeper.last().map((r) => [r.fact, r.aid, r.given])).toEqual([['bond:5:3', 'picture', '2']]);
  });
});

describe('slips of the adult', () => {
  const others = [
    { id: 'child', nickname: 'Odo' },
    { id: 'fenn', nickname: 'Fenn' },
  ];

  it('it was another child: the answer is that child’s, and so are all that follow', async () => {
    const { sitting, keeper, shown } = playSitting(
      ['show:3:five', 'show:4:five'].map(asked),
      {},
      { classmates: others },
    );
    sitting.goOn(0);
    sitting.answer('3', shown() + 900);
    sitting.wasAnother(others[1]!);
    expect(sitting.child().nickname).toBe('Fenn');
    sitting.goOn(1);
    sitting.answer('4', shown() + 900);
    await written();
    expect(keeper.last().map((r) => r.child)).toEqual(['fenn', 'fenn']);
  });

  it('in a group the one answer changes hands, and its go; of the rest whoever has had fewest goes first', async () => {
    const { sitting, keeper, shown } = playSitting(['show:3:five', 'show:4:five'].map(asked), {}, { children: others });
    sitting.goOn(0);
    sitting.answer('3', shown() + 900);
    sitting.wasAnother(others[1]!);
    expect(sitting.child().nickname).toBe('Fenn');
    sitting.goOn(1);
    expect(sitting.child().nickname).toBe('Odo');
    expect(sitting.turnCounts().map(({ nickname, had }) => [nickname, had])).toEqual([
      ['Odo', 0],
      ['Fenn', 1],
    ]);
    await written();
    expect(keeper.last().map((r) => r.child)).toEqual(['fenn']);
  });
});

describe('the whole class together', () => {
  it('leaves no answers, only who was seen counting, and that is never evidence', async () => {
    const everyone = { id: '', nickname: 'Everybody' };
    const odo = { id: 'odo', nickname: 'Odo' };
    const turns: Turn[] = ['show:3:five', 'show:4:five'].map((fact) => ({ child: '', ask: asked(fact) }));
    const { sitting, keeper, shown } = playSitting(
      [],
      {},
      { children: [everyone], classmates: [odo], turns, choral: true },
    );
    sitting.goOn(0);
    shown();
    sitting.answer('3', 1);
    sitting.chip(odo);
    sitting.goOn(2);
    expect(sitting.moment()).toBe('answered');
    // Nobody was wrong: what is said is the routine's own.
    expect([sitting.reply().say.say, sitting.helps()]).toEqual(['follow-up', []]);
    sitting.goOn(3);
    shown();
    sitting.chip(odo);
    sitting.chip(odo);
    sitting.goOn(4);
    sitting.goOn(5);
    expect(sitting.moment()).toBe('done');
    await written();
    expect(keeper.last().map((r) => [r.child, r.fact, r.observed, r.outcome, r.void])).toEqual([
      ['odo', 'show:3:five', 'counted', 'none', 'choral'],
      ['odo', 'show:4:five', 'counted', 'none', 'undone'],
    ]);
  });
});
