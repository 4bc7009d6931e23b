import type { Measured } from '@vane/core';
import { asked } from '../../testing/played';
import { PlayedFrames } from '../../testing/playedFrames';
import { StageRunner, type StageShow } from './stageRunner';

const flash = (change: Partial<StageShow> = {}): StageShow => ({
  ask: asked('show:7:frame-fives'),
  exposureMs: 500,
  answerMode: 'tap',
  ...change,
});

describe('the stage runner', () => {
  const setUp = () => {
    const frames = new PlayedFrames();
    const stage = document.createElement('div');
    const heard: { given: string; result: Measured; shownAt: number }[] = [];
    let stops = 0;
    const runner = new StageRunner(
      stage,
      frames,
      { stopped: () => stops++, answered: (given, result, shownAt) => heard.push({ given, result, shownAt }) },
      1_000_000,
    );
    const phase = () => stage.dataset['phase'];
    return { frames, stage, heard, runner, phase, stops: () => stops };
  };

  it('prepares the picture hidden, watches the display for half a second, then shows', () => {
    const { frames, stage, runner, phase } = setUp();
    runner.begin(flash());
    expect(phase()).toBe('ready');
    expect(stage.querySelectorAll('.layer')).toHaveLength(2);
    const began = frames.now();
    frames.until(() => phase() === 'show');
    expect(frames.now() - began).toBeGreaterThanOrEqual(500);
  });

  it('covers in the frame nearest to the time asked, clears, and times a press by its own stamp', () => {
    const { frames, runner, phase, heard } = setUp();
    runner.begin(flash());
    const shown = frames.until(() => phase() === 'show');
    const covered = frames.until(() => phase() === 'mask');
    expect(covered - shown).toBeCloseTo(500, 0);
    frames.until(() => phase() === 'answer');
    expect(frames.wanted).toBe(false);
    runner.answer('7', shown + 1234.56);
    expect(phase()).toBe('feedback');
    expect(heard).toHaveLength(1);
    expect(heard[0]).toMatchObject({
      given: '7',
      shownAt: Math.round(1_000_000 + shown),
      result: { responseMs: 1234.6, exposureMs: 500, flags: [] },
    });
  });

  it('leaves what stays in view until the next picture is there, and clears what was flashed', () => {
    const { frames, stage, runner, phase } = setUp();
    const shown = (): number => frames.until(() => phase() === 'show');
    const layers = (): string[] => [...stage.children].map(({ className }) => className.replace('layer ', ''));
    runner.begin(flash({ exposureMs: null }));
    runner.answer('7', shown() + 900);
    expect([phase(), stage.hasAttribute('data-stays'), layers()]).toEqual(['feedback', true, ['picture']]);
    runner.begin(flash({ ask: asked('show:5:frame-fives'), exposureMs: null }));
    expect(layers()).toEqual(['before', 'picture']);
    shown();
    expect(layers()).toEqual(['picture']);
    runner.answer('5', frames.now() + 900);
    // A flash begins on an empty stage.
    runner.begin(flash());
    expect(layers()).toEqual(['picture', 'cover']);
    expect(stage.hasAttribute('data-stays')).toBe(false);
    runner.abandon();
    expect(layers()).toEqual([]);
  });

  it('measures the frame of the display it runs on', () => {
    const frames = new PlayedFrames(1000 / 120);
    const heard: Measured[] = [];
    const stage = document.createElement('div');
    const runner = new StageRunner(
      stage,
      frames,
      { stopped: () => undefined, answered: (_, result) => heard.push(result) },
      0,
    );
    runner.begin(flash({ exposureMs: 200 }));
    const shown = frames.until(() => stage.dataset['phase'] === 'show');
    frames.until(() => stage.dataset['phase'] === 'answer');
    runner.answer('1', shown + 900);
    expect(heard[0]?.frameMs).toBeCloseTo(8.3, 1);
    expect(heard[0]?.exposureMs).toBeCloseTo(200, 0);
  });

  it('flags a frame that was dropped while the show was on, and keeps every frame time', () => {
    const { frames, runner, phase, heard } = setUp();
    runner.begin(flash());
    const shown = frames.until(() => phase() === 'show');
    frames.play(90);
    frames.until(() => phase() === 'mask');
    runner.answer('7', shown + 800);
    expect(heard[0]?.result.flags).toEqual(['dropped-frame']);
    expect(heard[0]?.result.framesMs[1]).toBe(90);
    expect(heard[0]?.result.droppedFrames).toBe(4);
  });

  it('takes no press before the show, and an answer in the show ends it', () => {
    const { frames, runner, phase, heard } = setUp();
    runner.begin(flash());
    runner.answer('3', frames.now());
    expect(heard).toEqual([]);
    const shown = frames.until(() => phase() === 'show');
    frames.play();
    expect(runner.asking).toBe(true);
    runner.answer('3', shown + 300);
    expect(heard[0]?.result.exposureMs).toBe(300);
    expect(frames.wanted).toBe(false);
  });

  it('abandons cleanly, and begins anew', () => {
    const { frames, runner, phase, stage, heard } = setUp();
    runner.begin(flash());
    frames.until(() => phase() === 'show');
    runner.abandon();
    expect(phase()).toBe('ready');
    expect(stage.childElementCount).toBe(0);
    expect(frames.wanted).toBe(false);
    runner.begin(flash({ exposureMs: null }));
    const shown = frames.until(() => phase() === 'show');
    for (let i = 0; i < 300; i++) frames.play();
    expect(phase()).toBe('show');
    runner.answer('2', shown + 2000);
    expect(heard).toHaveLength(1);
  });
});
