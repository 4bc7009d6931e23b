import { withSign } from './marks';
import type { CarpetSettings } from '@vane/contract';
import { newBoard, makeAsk, toggle, type BoardPlan } from '@vane/core';
import { asked, playSitting, written } from '../../testing/played';
import { nextWords } from '../prompts';
import type { Wait } from './ready';

const begin = (facts: string[], settings: Partial<CarpetSettings> = {}) => playSitting(facts.map(asked), settings);

describe('after a wrong answer', () => {
  it('the words suit it, help is recorded in order, and so is what came then; the first answer stays', async () => {
    const { sitting, keeper, shown, stage } = playSitting([asked('show:7:dice')]);
    sitting.goOn(0);
    sitting.answer('6', shown() + 900);
    expect(nextWords(sitting, 'Odo')).toBe('“Very close. Let’s check. How many did you see?”');
    expect(sitting.helps()).toEqual(['frame-under', 'count-together']);
    // Without help it is no second answer.
    sitting.answer('7', 0);
    sitting.showAgain();
    expect(nextWords(sitting, 'Odo')).toBe('“Look again. How many did you see?”');
    sitting.then(0);
    expect(nextWords(sitting, 'Odo')).toContain('on the frame');
    expect([stage.dataset['phase'], stage.querySelectorAll('.picture circle')]).toEqual([
      'laid',
      expect.objectContaining({ length: 7 }),
    ]);
    sitting.then(1);
    sitting.then(1);
    expect(sitting.putRight()).toBe(false);
    sitting.answer('7', 0);
    expect(sitting.putRight()).toBe(true);
    await written();
    expect(keeper.last()).toMatchObject([
      {
        given: '6',
        outcome: 'wrong',
        response_ms: 900,
        help: ['look-again', 'frame-under', 'count-together'],
        second_answer: '7',
      },
    ]);
  });

  it('a right one is left alone, but for how the child did it', async () => {
    const { sitting, keeper, shown } = playSitting([asked('show:7:frame-fives')]);
    sitting.goOn(0);
    sitting.answer('7', shown() + 900);
    expect(sitting.helps()).toEqual([]);
    sitting.help('look-again');
    sitting.then(0);
    await written();
    expect(keeper.last()).toMatchObject([{ help: [], explanation: 'five-and', second_answer: '' }]);
    sitting.then(0);
    await written();
    expect(keeper.last()).toMatchObject([{ explanation: '' }]);
  });

  it('on a board of ways the repeat lights up', () => {
    const board = { show: 'ways', whole: 4, ways: [[1, 3]] } as const;
    const way = makeAsk('ways:4', board, { say: 'a-way', whole: 4 }, { want: { by: 'pair' }, accepts: ['2+2'] });
    const { sitting, shown, stage } = playSitting([way]);
    sitting.goOn(0);
    shown();
    sitting.mark(1, 0);
    sitting.mark(3, 0);
    expect(stage.querySelectorAll('.lit')).toHaveLength(1);
    expect(nextWords(sitting, 'Odo')).toContain('already');
  });
});

describe('eyes on the children', () => {
  it('a sign is taken from the show on, and stays for the answer; after the next has begun it still reaches the last', async () => {
    const { sitting, keeper, shown } = begin(['show:3:five', 'show:4:five'], { readyMs: null });
    sitting.toggleFiner('lips');
    expect(sitting.observed().finerSigns).toEqual([]);
    sitting.goOn(0);
    const at = shown();
    sitting.toggleFiner('lips');
    sitting.answer('3', at + 900);
    sitting.goOn(0);
    expect(sitting.moment()).toBe('ready');
    sitting.toggleSign('counted');
    sitting.goOn(0);
    sitting.answer('4', shown() + 900);
    await written();
    expect(keeper.last().map((row) => row.observed)).toEqual(['counted:lips', '']);
  });

  it('the ready is of its set length and leads to the show; paused, it begins anew', () => {
    const waits: { ms: number; then: () => void; over: boolean }[] = [];
    const wait: Wait = (ms, then) => {
      const one = { ms, then, over: false };
      waits.push(one);
      return () => void (one.over = true);
    };
    const { sitting, shown } = playSitting(['show:3:five', 'show:4:five'].map(asked), { readyMs: 2000 }, {}, 60, wait);
    expect([sitting.moment(), sitting.coming(), waits[0]?.ms]).toEqual(['ready', true, 1500]);
    sitting.togglePause();
    expect([sitting.coming(), waits[0]?.over]).toEqual([false, true]);
    sitting.togglePause();
    waits[1]!.then();
    expect(sitting.moment()).toBe('asking');
    sitting.answer('3', shown() + 900);
    sitting.goOn(0);
    expect([sitting.moment(), sitting.coming()]).toEqual(['ready', true]);
    sitting.waitByHand();
    expect([sitting.coming(), waits[2]?.over]).toEqual([false, true]);
  });

  it('by hand: one press shows, one stops the clock or answers, one goes on', () => {
    const { sitting, shown } = begin(['show:3:five', 'show:4:five'], { readyMs: null });
    expect([sitting.moment(), sitting.coming()]).toEqual(['ready', false]);
    sitting.goOn(0);
    sitting.answer('3', shown() + 900);
    sitting.goOn(0);
    expect(sitting.moment()).toBe('ready');
  });

  it('undo leads back to the answer before: it stands, is entered anew, and the show that was interrupted comes again', async () => {
    const { sitting, keeper, shown, frames } = begin(['show:3:five', 'show:4:five'], { answerMode: 'spoken' });
    sitting.goOn(0);
    const at = shown();
    sitting.goOn(at + 1100);
    sitting.answer('2', 0);
    sitting.goOn(0);
    shown();
    sitting.undo();
    expect([sitting.moment(), sitting.ask().fact, sitting.given()]).toEqual(['answered', 'show:3:five', '2']);
    sitting.undo();
    expect(sitting.moment()).toBe('stopped');
    sitting.answer('3', 0);
    sitting.goOn(0);
    shown();
    sitting.goOn(frames.now() + 700);
    sitting.answer('4', 0);
    sitting.goOn(0);
    expect(sitting.moment()).toBe('done');
    await written();
    expect(keeper.last()).toMatchObject([
      { fact: 'show:3:five', given: '2', void: 'undone' },
      { fact: 'show:3:five', given: '3', void: '', response_ms: 1100, flags: [] },
      // It had been seen before.
      { fact: 'show:4:five', given: '4', aid: 'second-look' },
    ]);
  });

  it('the last five answers can be put right in one list, those before no longer', async () => {
    const facts = Array.from({ length: 7 }, (_, i) => `show:${i + 1}:frame-fives`);
    const { sitting, keeper, shown } = begin(facts);
    sitting.goOn(0);
    for (let i = 0; i < 6; i++) {
      sitting.answer(String(i + 1), shown() + 900);
      sitting.goOn(0);
    }
    expect(sitting.last().map((row) => row.given)).toEqual(['6', '5', '4', '3', '2']);
    sitting.markEarlier(sitting.last()[4]!.response_id, (marks) => withSign(marks, 'counted'));
    await written();
    expect(keeper.last().map((row) => row.observed)).toEqual(['', 'counted', '', '', '', '']);
    expect(keeper.stillOpen).toEqual(sitting.last().map((row) => row.response_id));
  });
});

describe('what is taken back', () => {
  it('takes its help, its explanation and how the counters lay with it; what was seen stays', async () => {
    const FRAME: BoardPlan = { layout: 'frame-fives', frames: 1, start: [0], moves: false, byRule: true };
    const built = makeAsk(
      'match:3',
      { show: 'nothing' },
      { say: 'fill', n: 3 },
      { want: { by: 'board', plan: FRAME } },
    );
    const { sitting, keeper, shown } = playSitting([built]);
    let board = newBoard(FRAME);
    for (const box of [0, 5]) board = toggle(board, box);
    sitting.attachBoard(() => board);
    sitting.goOn(0);
    const at = shown();
    sitting.toggleFiner('lips');
    sitting.goOn(at + 900);
    sitting.then(0);
    sitting.undo();
    board = newBoard(FRAME);
    for (const box of [0, 1, 2]) board = toggle(board, box);
    sitting.goOn(at + 2900);
    await written();
    expect(keeper.last()).toMatchObject([
      { given: '2', void: 'undone', observed: ':lips second-row-too-soon', help: ['count-together'] },
      { given: '3', void: '', observed: ':lips', help: [], second_answer: '' },
    ]);
  });

  it('after Next is as it was marked since', async () => {
    const { sitting, keeper, shown } = begin(['show:3:five', 'show:4:five'], { readyMs: null, answerMode: 'spoken' });
    sitting.goOn(0);
    sitting.goOn(shown() + 900);
    sitting.answer('2', 0);
    sitting.goOn(0);
    sitting.toggleSign('counted');
    sitting.undo();
    sitting.undo();
    // A screen that is reopened just now has nothing of this entry.
    sitting.lost();
    sitting.answer('3', 0);
    await written();
    expect(keeper.last()).toMatchObject([
      { given: '2', void: 'undone', observed: 'counted' },
      { given: '3', void: '', observed: 'counted', response_ms: 900 },
    ]);
  });

  it('is never talk', () => {
    const talk = makeAsk(null, { show: 'nothing' }, { say: 'full' }, { want: { by: 'talk' } });
    const { sitting, shown } = playSitting([talk, asked('show:3:five')], { readyMs: null });
    sitting.goOn(0);
    shown();
    sitting.goOn(0);
    expect([sitting.moment(), sitting.canUndo()]).toEqual(['ready', false]);
  });
});
