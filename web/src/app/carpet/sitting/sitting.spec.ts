import type { CarpetSettings } from '@vane/contract';
import { put } from '@vane/core';
import { asked, playSitting, written } from '../../testing/played';
import { nextWords } from '../prompts';
import type { Wait } from './sitting';
import { stagePicture } from '../measurement/stagePictures';

const begin = (
  facts: string[],
  settings: Partial<CarpetSettings> = {},
  children = [{ id: 'child', nickname: 'Odo' }],
) => playSitting(facts.map(asked), settings, { children });

describe('a sitting', () => {
  it('puts its facts in order, keeps each answer at once, and closes it when the next show begins', async () => {
    const { sitting, keeper, shown } = begin(['match:4', 'show:7:frame-fives']);
    sitting.goOn(0);
    expect(keeper.held).toBe(true);
    sitting.answer('4', shown() + 700);
    expect(sitting.moment()).toBe('answered');
    expect(keeper.held).toBe(false);
    await written();
    expect(keeper.sittings).toMatchObject([
      { id: sitting.id, routine: 'flash-and-say', started_at: '2026-11-25T09:00:00.000Z', answer_mode: 'tap' },
    ]);
    expect(keeper.states).toMatchObject([
      {
        child: 'child',
        sitting: sitting.id,
        kind: 'match',
        fact: 'match:4',
        given: '4',
        outcome: 'correct',
        response_ms: 700,
        exposure_ms: 700,
      },
    ]);
    sitting.goOn(0);
    sitting.answer('6', shown() + 1500);
    sitting.goOn(0);
    expect(sitting.moment()).toBe('done');
    await written();
    expect(keeper.closed).toBe(2);
    expect(keeper.last()[1]).toMatchObject({
      fact: 'show:7:frame-fives',
      given: '6',
      outcome: 'wrong',
      quality: { asked_ms: 500 },
    });
  });

  it('takes signs, one main and many finer, and takes them away again', async () => {
    const { sitting, keeper, shown } = begin(['show:3:five']);
    sitting.toggleSign('knew');
    sitting.goOn(0);
    sitting.answer('3', shown() + 900);
    sitting.toggleSign('counted');
    sitting.toggleFiner('lips');
    sitting.toggleFiner('fingers');
    sitting.toggleSign('knew');
    sitting.toggleFiner('lips');
    await written();
    expect(keeper.states.map((row) => row.observed)).toEqual([
      '',
      'counted',
      'counted:lips',
      'counted:lips fingers',
      'knew:lips fingers',
      'knew:fingers',
    ]);
    expect(keeper.last()).toHaveLength(1);
  });

  it('undoes a tapped answer: the first stays as undone, the second has no time', async () => {
    const { sitting, keeper, shown, frames } = begin(['show:3:five']);
    sitting.goOn(0);
    sitting.answer('2', shown() + 900);
    sitting.undo();
    expect(sitting.moment()).toBe('asking');
    sitting.answer('3', frames.now());
    await written();
    expect(keeper.last()).toMatchObject([
      { given: '2', void: 'undone', response_ms: 900 },
      { given: '3', void: '', response_ms: null, flags: ['remarked'] },
    ]);
  });

  it('keeps a second look apart from the first', async () => {
    const { sitting, keeper, shown, stage, frames } = begin(['show:8:frame-fives']);
    sitting.goOn(0);
    shown();
    sitting.secondLook();
    frames.until(() => stage.dataset['phase'] === 'show');
    sitting.answer('8', frames.now() + 1000);
    await written();
    expect(keeper.last()).toMatchObject([
      { outcome: 'none', aid: 'none' },
      { outcome: 'correct', aid: 'second-look', response_ms: 1000 },
    ]);
  });

  it('has no second look at a numeral to copy, and none before the first', () => {
    const { sitting, keeper } = begin(['match:5']);
    sitting.secondLook();
    expect(sitting.moment()).toBe('ready');
    expect(keeper.states).toEqual([]);
  });

  it('voids the answer that was given, takes that back, and voids a show that is on', async () => {
    const { sitting, keeper, shown } = begin(['show:3:five', 'show:4:five']);
    sitting.goOn(0);
    sitting.answer('3', shown() + 900);
    sitting.spoil();
    sitting.spoil();
    expect(keeper.held).toBe(false);
    sitting.goOn(0);
    shown();
    sitting.spoil();
    await written();
    expect(keeper.last()).toMatchObject([
      { given: '3', void: '' },
      { given: '', void: 'spoiled', outcome: 'none' },
    ]);
  });

  it('paused before the show, it begins anew; paused in it, the answer is flagged', async () => {
    const { sitting, keeper, shown, frames } = begin(['show:3:five', 'show:4:five']);
    sitting.goOn(0);
    frames.play();
    sitting.togglePause();
    expect(sitting.moment()).toBe('ready');
    expect(keeper.held).toBe(false);
    sitting.goOn(0);
    expect(sitting.moment()).toBe('ready');
    sitting.togglePause();
    sitting.goOn(0);
    shown();
    sitting.togglePause();
    sitting.answer('3', frames.now());
    expect(sitting.moment()).toBe('asking');
    sitting.togglePause();
    sitting.answer('3', frames.now() + 400);
    await written();
    expect(keeper.last()).toMatchObject([{ given: '3', flags: ['paused'] }]);
  });

  it('spoken: the clock stops when the child speaks, and the number comes after', async () => {
    const { sitting, keeper, shown, frames } = begin(['show:9:frame-fives'], { answerMode: 'spoken' });
    sitting.goOn(0);
    const at = shown();
    sitting.goOn(at + 1100);
    expect(sitting.moment()).toBe('stopped');
    for (let i = 0; i < 60; i++) frames.play();
    sitting.answer('9', at + 4000);
    await written();
    expect(keeper.last()).toMatchObject([{ answer_mode: 'spoken', given: '9', response_ms: 1100 }]);
  });

  it('ended early keeps what was marked and drops what was not', async () => {
    const { sitting, keeper, shown } = begin(['show:3:five', 'show:4:five', 'show:2:five']);
    sitting.goOn(0);
    sitting.answer('3', shown() + 900);
    sitting.goOn(0);
    shown();
    sitting.end();
    await written();
    expect(sitting.moment()).toBe('done');
    expect(keeper.last()).toHaveLength(1);
    expect(keeper.held).toBe(false);
  });

  it('in a group waits for the next child, who may go later, leave, and come back', async () => {
    const group = ['Ivo', 'Fenn', 'Cleo'].map((nickname) => ({ id: nickname.toLowerCase(), nickname }));
    const { sitting, keeper, shown } = begin(['show:3:five', 'show:4:five'], { readyMs: null }, group);
    const go = (given: string): void => {
      sitting.goOn(0);
      sitting.answer(given, shown() + 900);
    };
    expect(sitting.child().nickname).toBe('Ivo');
    go('3');
    sitting.goOn(0);
    expect([sitting.moment(), sitting.child().nickname]).toEqual(['ready', 'Fenn']);
    sitting.goLater();
    expect(sitting.child().nickname).toBe('Cleo');
    go('3');
    sitting.goOn(0);
    sitting.toggleAway('fenn');
    expect(sitting.line.pebbles().map((c) => [c.nickname, c.had, c.away])).toEqual([
      ['Ivo', 1, false],
      ['Fenn', 0, true],
      ['Cleo', 1, false],
    ]);
    expect(sitting.child().nickname).toBe('Ivo');
    sitting.toggleAway('fenn');
    expect(sitting.child().nickname).toBe('Fenn');
    sitting.toggleAway('fenn');
    sitting.toggleAway('ivo');
    sitting.toggleAway('cleo');
    // The last one left stays.
    expect(sitting.child().nickname).toBe('Cleo');
    go('4');
    sitting.goOn(0);
    expect(sitting.moment()).toBe('done');
    await written();
    expect(keeper.last().map((row) => [row.child, row.fact])).toEqual([
      ['ivo', 'show:3:five'],
      ['cleo', 'show:3:five'],
      ['cleo', 'show:4:five'],
    ]);
  });

  it('says so when the device cannot keep an answer', async () => {
    const { sitting, keeper, shown } = begin(['show:3:five']);
    keeper.fails = true;
    sitting.goOn(0);
    sitting.answer('3', shown() + 900);
    await written();
    expect(sitting.record.unkept()).toContain('no room');
  });
});

describe('what is shown and said', () => {
  it('draws as many dots as the picture says, and a cover that does not', () => {
    const { picture, cover } = stagePicture({ show: 'frame', layout: 'frame-pairs', count: 7, direction: 'columns' });
    expect(picture.querySelectorAll('circle')).toHaveLength(7);
    expect(picture.querySelectorAll('rect')).toHaveLength(10);
    expect(cover.querySelectorAll('circle')).toHaveLength(0);
    expect(stagePicture({ show: 'numeral', n: 10 }).picture.textContent).toBe('10');
  });

  it('asks the question that suits the number', () => {
    const after = (n: number) => {
      const { sitting, shown } = playSitting([asked(`show:${n}:frame-fives`)]);
      sitting.goOn(0);
      sitting.answer(String(n), shown() + 900);
      return nextWords(sitting, 'Odo');
    };
    expect(after(4)).toContain('make five');
    expect(after(5)).toContain('full row');
    expect(after(8)).toContain('in the top row');
    expect(after(9)).toContain('empty');
    expect(after(10)).toContain('full');
    expect(after(0)).toContain('empty');
    const { sitting, shown } = playSitting([asked('show:4:five')], { answerMode: 'spoken' });
    sitting.goOn(0);
    sitting.goOn(shown() + 900);
    expect(nextWords(sitting, 'Odo')).toBe('What did Odo answer?');
  });
});

describe('after a wrong answer', () => {
  it('the words suit it, help is recorded in order, and so is what came then; the first answer stays', async () => {
    const { sitting, keeper, shown, stage } = playSitting([asked('show:7:dice')]);
    sitting.goOn(0);
    sitting.answer('6', shown() + 900);
    expect(nextWords(sitting, 'Odo')).toContain('Look again');
    expect(sitting.helps()).toEqual(['look-again', 'frame-under', 'count-together']);
    // Without help it is no second answer.
    sitting.answer('7', 0);
    sitting.then(1);
    expect([stage.dataset['phase'], stage.querySelectorAll('.picture circle')]).toEqual([
      'laid',
      expect.objectContaining({ length: 7 }),
    ]);
    sitting.then(2);
    sitting.then(2);
    expect(sitting.putRight()).toBe(false);
    sitting.answer('7', 0);
    expect(sitting.putRight()).toBe(true);
    await written();
    expect(keeper.last()).toMatchObject([
      {
        given: '6',
        outcome: 'wrong',
        response_ms: 900,
        help: ['frame-under', 'count-together'],
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
    const way = put('ways:4', board, { say: 'a-way', whole: 4 }, { want: { by: 'pair' }, accepts: ['2+2'] });
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
    expect(sitting.marks.finer()).toEqual([]);
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
    sitting.markEarlier(sitting.last()[4]!.response_id, (marks) => marks.toggleSign('counted'));
    await written();
    expect(keeper.last().map((row) => row.observed)).toEqual(['', 'counted', '', '', '', '']);
    expect(keeper.stillOpen).toEqual(sitting.last().map((row) => row.response_id));
  });
});
