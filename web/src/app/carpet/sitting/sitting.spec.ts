import type { CarpetSettings } from '@vane/contract';
import { asked, playSitting, written } from '../../testing/played';
import { nextWords } from '../prompts';
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
    expect(sitting.turnCounts().map((c) => [c.nickname, c.had, c.away])).toEqual([
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
