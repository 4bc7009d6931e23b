import { jest } from '@jest/globals';
import type { ControlState, StageState } from '@vane/contract';
import { dealTurns } from '@vane/core';
import { StagePlayer } from '../../board/stagePlayer';
import { PlayedFrames } from '../../testing/playedFrames';
import { atOnce, asked, Memory, SETTINGS } from '../../testing/played';
import { Sitting } from '../sitting/sitting';
import { across, Clock, withinOf, type ClockMatch } from './clock';
import { OtherStage } from './otherStage';
import { ScreenLink } from './link';

const settled = (): Promise<void> => new Promise((done) => setTimeout(done));

describe('matching clocks', () => {
  it('believes the answer that came back quickest, and says within how much', async () => {
    let now = 1000;
    const ways = [
      [30, 10],
      [4, 6],
      [100, 2],
    ];
    const clock = new Clock(
      () => {
        const [there = 0, back = 0] = ways.shift() ?? [];
        now += there;
        const told = now + 5000;
        now += back;
        return Promise.resolve(told);
      },
      () => now,
    );
    for (let i = 0; i < 3; i++) await clock.sample();
    expect(clock.match?.within).toBe(5);
    expect(Math.abs((clock.match?.offset ?? 0) - 5000)).toBeLessThanOrEqual(5);
  });

  it('carries a time from one clock to the other', () => {
    const [one, other]: ClockMatch[] = [
      { offset: 5000, within: 3 },
      { offset: 900, within: 4 },
    ];
    expect(across(100, one!, other!)).toBe(4200);
    expect(withinOf(one!, other!)).toBe(7);
  });
});

describe('one side of two screens', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  class Stream extends EventTarget {
    closed = false;
    close(): void {
      this.closed = true;
    }
    say(event: string, data: string): void {
      this.dispatchEvent(new MessageEvent(event, { data }));
    }
  }
  it('sends the newest state, leaves out what was overtaken, and tries again after a failure', async () => {
    const sent: number[] = [];
    let fails = 1;
    const unsent: unknown[] = [];
    const stream = new Stream();
    const link = new ScreenLink<{ n: number }, object>(
      ({ state }) => {
        if (fails-- > 0) return Promise.reject(new Error('away'));
        sent.push(state.n);
        return settled();
      },
      '/x',
      { heard: () => undefined, ended: () => undefined, unsent: (why) => unsent.push(why) },
      () => stream as unknown as EventSource,
    );
    link.start(7);
    for (const n of [1, 2, 3]) link.tell({ n });
    await jest.runAllTimersAsync();
    expect([unsent.length, sent]).toEqual([1, [3]]);
    for (const n of [4, 5, 6]) link.tell({ n });
    await jest.runAllTimersAsync();
    expect(sent).toEqual([3, 4, 6]);
    link.close();
    expect(stream.closed).toBe(true);
  });

  it('hears each state once, the newest only, and its end', () => {
    const heard: number[] = [];
    let ended = 0;
    const stream = new Stream();
    const link = new ScreenLink<object, { n: number }>(
      () => Promise.resolve(),
      '/x',
      { heard: ({ n }) => heard.push(n), ended: () => ended++, unsent: () => undefined },
      () => stream as unknown as EventSource,
    );
    link.start(0);
    for (const [seq, n] of [
      [2, 20],
      [2, 20],
      [1, 10],
      [3, 30],
    ])
      stream.say('state', JSON.stringify({ seq, state: { n } }));
    stream.say('ended', '');
    expect([heard, ended, stream.closed]).toEqual([[20, 30], 1, true]);
  });
});

/** A sitting here and its stage there, on clocks that lie 4000 ms apart, joined by a link that may be cut. */
function twoScreens(mode: 'tap' | 'spoken' = 'tap', asks = [asked('show:7:frame-fives'), asked('show:4:frame-fives')]) {
  const APART = 4000;
  const here: ClockMatch = { offset: 10_000, within: 3 };
  const there: ClockMatch = { offset: 10_000 - APART, within: 2 };
  const frames = new PlayedFrames();
  const stageElement = document.createElement('div');
  const keeper = new Memory();
  const children = [{ id: 'child', nickname: 'Odo' }];
  const settings = { ...SETTINGS, answerMode: mode };
  const turns = dealTurns([{ child: 'child', asks }]);
  const wish = {
    classId: 'class',
    children,
    classmates: children,
    settings,
    turns,
    follow: () => [],
    choral: false,
    open: false,
    shared: false,
  };
  const sitting = new Sitting(wish, keeper, () => 0, atOnce());
  const look = (): ControlState['look'] => ({
    moment: sitting.moment(),
    given: null,
    firstPart: null,
    paused: false,
    alone: false,
    larger: false,
    choral: false,
    options: settings.options,
    counters: 'dots',
  });
  const wire: { cut: boolean; control: ControlState | null; stage: StageState | null } = {
    cut: false,
    control: null,
    stage: null,
  };
  const copy = <T>(state: T): T => JSON.parse(JSON.stringify(state)) as T;
  const far = new OtherStage(
    (state) => {
      wire.control = copy(state);
      if (!wire.cut) player.heard(wire.control);
    },
    {
      stopped: () => sitting.stopped(),
      answered: (...told) => sitting.answered(...told),
      joined: () => sitting.joined(),
      lost: () => sitting.lost(),
      pressed: (given, at) => sitting.answer(given, at),
      went: (at) => sitting.goOn(at),
    },
    () => here,
    () => frames.now() - APART,
    look(),
  );
  const tell = (state: StageState): void => {
    wire.stage = copy(state);
    if (!wire.cut) far.heard(wire.stage);
  };
  const open = (): StagePlayer => new StagePlayer(stageElement, frames, 0, () => there, tell);
  let player = open();
  sitting.attach(far);
  far.begun();
  const shown = () => frames.until(() => stageElement.dataset['phase'] === 'show');
  return {
    sitting,
    keeper,
    frames,
    far,
    wire,
    shown,
    /** A time of the stage's clock, on this page's. */
    hereAt: (at: number) => at - APART,
    player: () => player,
    reopen: () => {
      far.look(look());
      player = open();
      player.heard(wire.control!);
    },
    mend: () => {
      wire.cut = false;
      if (wire.control) player.heard(wire.control);
      if (wire.stage) far.heard(wire.stage);
    },
  };
}

describe('a sitting whose stage is on another screen', () => {
  it('measures a tap by the stage’s own clock', async () => {
    const { sitting, keeper, player, shown } = twoScreens();
    sitting.goOn(0);
    const at = shown();
    player().press('7', at + 1234.5);
    expect(sitting.moment()).toBe('answered');
    await settled();
    const [row] = keeper.last();
    expect(row).toMatchObject({ given: '7', outcome: 'correct', response_ms: 1234.5, flags: [] });
    expect(row?.quality).not.toHaveProperty('clock_ms');
  });

  it('carries what the adult marks to the stage’s clock, and keeps within how much that is right', async () => {
    const { sitting, keeper, shown, hereAt } = twoScreens('spoken');
    sitting.goOn(0);
    const at = shown();
    sitting.goOn(hereAt(at + 1500));
    expect(sitting.moment()).toBe('stopped');
    sitting.mark(7, hereAt(at + 3000));
    await settled();
    const [row] = keeper.last();
    expect(row).toMatchObject({ response_ms: 1500, flags: [], quality: { clock_ms: 5 } });
  });

  it('loses nothing when the link breaks: what was pressed meanwhile arrives afterwards, with its own time, and once', async () => {
    const { sitting, keeper, player, shown, wire, mend, frames } = twoScreens();
    sitting.goOn(0);
    const at = shown();
    wire.cut = true;
    player().press('6', at + 900);
    frames.play(2000);
    expect(sitting.moment()).toBe('asking');
    mend();
    mend();
    await settled();
    expect(keeper.last()).toMatchObject([{ given: '6', outcome: 'wrong', response_ms: 900 }]);
    sitting.goOn(0);
    player().press('4', shown() + 700);
    await settled();
    expect(keeper.last().map((r) => [r.given, r.response_ms])).toEqual([
      ['6', 900],
      ['4', 700],
    ]);
  });

  it('puts the question again when the other screen was opened anew in the middle of it', () => {
    const { sitting, keeper, shown, reopen, player } = twoScreens();
    sitting.goOn(0);
    shown();
    reopen();
    expect(sitting.moment()).toBe('ready');
    expect(keeper.states).toEqual([]);
    sitting.goOn(0);
    player().press('7', shown() + 800);
    expect(sitting.moment()).toBe('answered');
  });

  it('takes an answer back and asks again without showing again', async () => {
    const { sitting, keeper, player, shown } = twoScreens();
    sitting.goOn(0);
    const at = shown();
    player().press('6', at + 900);
    sitting.undo();
    player().press('7', at + 2900);
    await settled();
    expect(keeper.last().map((r) => [r.given, r.void, r.flags])).toEqual([
      ['6', 'undone', []],
      ['7', '', ['remarked']],
    ]);
  });

  it('says when the other screen has been silent for too long, and when it is back', () => {
    const { far, frames, player } = twoScreens();
    expect(far.link()).toBe('there');
    frames.play(9500);
    far.check();
    expect(far.link()).toBe('silent');
    player().here();
    expect(far.link()).toBe('there');
  });
});
