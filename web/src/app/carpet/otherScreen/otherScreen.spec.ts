import type { ControlState, ScreenState, StageState } from '@vane/contract';
import { dealTurns } from '@vane/core';
import { type Observable, concat, defer, endWith, ignoreElements, map, of, take, takeUntil, timer } from 'rxjs';
import { TestScheduler } from 'rxjs/testing';
import { StagePlayer } from '../../board/stagePlayer';
import { PlayedFrames } from '../../testing/playedFrames';
import { atOnce, asked, Memory, SETTINGS } from '../../testing/played';
import { Sitting } from '../sitting/sitting';
import { across, matchedClock, withinOf, type ClockMatch, type Told } from './clock';
import { OtherStage } from './otherStage';
import { statesFrom, writtenTo } from './link';

const settled = (): Promise<void> => new Promise((done) => setTimeout(done));

/** The server's clock runs five seconds before this page's. */
const APART = 5000;
const marbles = (): TestScheduler => new TestScheduler((actual, expected) => expect(actual).toEqual(expected));

const rounded = ({ offset, within }: ClockMatch): ClockMatch => ({
  offset: Number(offset.toFixed(4)),
  within: Number(within.toFixed(4)),
});

describe('matching clocks', () => {
  /** A server that each question reaches and leaves after so long; NaN = it does not answer. */
  const server = (scheduler: TestScheduler, ways: readonly (readonly [there: number, back: number])[]) => {
    let asked = 0;
    return defer((): Observable<Told> => {
      const [there = 0, back = 0] = ways[Math.min(asked++, ways.length - 1)] ?? [];
      const sent = scheduler.now();
      if (Number.isNaN(there))
        return timer(5).pipe(
          map(() => {
            throw new Error('away');
          }),
        );
      return timer(there + back).pipe(map(() => ({ sent, there: sent + there + APART, back: scheduler.now() })));
    });
  };

  it('believes the answer that came back quickest, says within how much, and asks no more once that is good', () => {
    const scheduler = marbles();
    scheduler.run(({ expectObservable }) => {
      const match = (offset: number, within: number) => ({ offset: APART + offset, within });
      const ways = [
        [30, 10],
        [NaN, 0],
        [4, 6],
        [50, 50],
        [1, 0],
      ] as const;
      expectObservable(matchedClock(server(scheduler, ways)).pipe(take(4), map(rounded))).toBe(
        '40ms a 14ms b 99ms c (d|)',
        {
          a: match(10, 20),
          b: match(-1, 5),
          // An older match is worth less: clocks part.
          c: match(-1, 5 + 100 * 50e-6),
          d: match(0.5, 0.5),
        },
      );
    });
  });

  it('finds more in a quick way there and a quick way back than in either, and begins anew where a clock was set', () => {
    const scheduler = marbles();
    scheduler.run(({ expectObservable }) => {
      const told = [
        { sent: 0, there: APART + 1, back: 21 },
        { sent: 21, there: APART + 41, back: 42 },
        { sent: 50, there: 60, back: 60 },
      ];
      const asked = defer(() => timer(10).pipe(map(() => told.shift()!)));
      expectObservable(matchedClock(asked).pipe(take(3), map(rounded))).toBe('10ms a 9ms b 9ms (c|)', {
        a: { offset: APART - 9.5, within: 10.5 },
        b: { offset: APART + 0.0005, within: 1.0005 },
        c: { offset: 5, within: 5 },
      });
    });
  });

  it('asks again after twenty seconds, and at once no more than forty times', () => {
    const scheduler = marbles();
    scheduler.run(({ expectObservable }) => {
      let asked = 0;
      const slow = defer((): Observable<Told> => {
        asked++;
        const sent = scheduler.now();
        return timer(10).pipe(map(() => ({ sent, there: sent, back: sent + 10 })));
      });
      const counted = matchedClock(slow).pipe(
        ignoreElements(),
        takeUntil(timer(20_400 + 9)),
        endWith(0),
        map(() => asked),
      );
      expectObservable(counted).toBe('20409ms (x|)', { x: 41 });
    });
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
  class Stream extends EventTarget {
    closed = false;
    readyState = 1;
    close(): void {
      this.closed = true;
    }
    say(event: string, data: string): void {
      this.dispatchEvent(new MessageEvent(event, { data }));
    }
  }
  beforeAll(() => Object.assign(globalThis, { EventSource: { CLOSED: 2 } }));

  it('writes the newest state, leaves out what was overtaken, and tries again after a failure, telling why', () => {
    marbles().run(({ cold, hot, expectObservable }) => {
      const written: [number, string][] = [];
      let fails = 2;
      const write = ({ seq, state }: ScreenState<string>) =>
        defer(() => {
          if (fails-- > 0) return cold('-#', {}, 'away');
          written.push([seq, state]);
          return cold('--|');
        });
      const states = hot('a 700ms bcd 50ms e');
      expectObservable(writtenTo(states, 7, write), '2s !').toBe('-x 600ms x', { x: 'away' });
      expectObservable(timer(3000).pipe(map(() => written))).toBe('3s (w|)', {
        w: [
          [9, 'b'],
          [11, 'd'],
          [12, 'e'],
        ],
      });
    });
  });

  it('hears each state once, the newest only, and its end', () => {
    const heard: number[] = [];
    let ended = 0;
    const stream = new Stream();
    statesFrom<{ n: number }>(() => stream as unknown as EventSource).subscribe({
      next: ({ n }) => heard.push(n),
      complete: () => ended++,
    });
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

  it('opens a stream anew that the browser has given up, and hears nothing twice', () => {
    marbles().run(({ expectObservable }) => {
      const streams: Stream[] = [];
      const says = (i: number, seq: number) => () => streams[i]?.say('state', JSON.stringify({ seq, state: seq }));
      const breaks = (i: number, state: number) => () => {
        const stream = streams[i]!;
        stream.readyState = state;
        stream.dispatchEvent(new Event('error'));
      };
      timer(1).subscribe(says(0, 1));
      // The browser opens it again by itself.
      timer(2).subscribe(breaks(0, 0));
      timer(3).subscribe(says(0, 2));
      timer(4).subscribe(breaks(0, 2));
      timer(600).subscribe(says(1, 2));
      timer(601).subscribe(says(1, 3));
      const states = statesFrom<number>(() => (streams.push(new Stream()), streams.at(-1) as unknown as EventSource));
      expectObservable(states, '1s !').toBe('-a-b 597ms c', { a: 1, b: 2, c: 3 });
      expectObservable(timer(700).pipe(map(() => streams.map(({ closed }) => closed)))).toBe('700ms (s|)', {
        s: [true, false],
      });
    });
  });

  it('ends where the browser has given up and there is nothing left to open, and asks again where nobody answers', () => {
    marbles().run(({ cold, expectObservable }) => {
      const streams: Stream[] = [];
      const open = (): EventSource => {
        const stream = new Stream();
        timer(1).subscribe(() => {
          stream.readyState = 2;
          stream.dispatchEvent(new Event('error'));
        });
        return (streams.push(stream), stream as unknown as EventSource);
      };
      const answers = [cold('-#'), cold('-(n|)', { n: false }), cold('-(y|)', { y: true })] as Observable<boolean>[];
      const states = statesFrom(open, () => answers.shift()!);
      const told: string[] = [];
      concat(states, of('over')).subscribe((one) => told.push(String(one)));
      // How long it waits in between is in part by chance.
      const at = (ms: number) => timer(ms).pipe(map(() => [streams.length, ...told]));
      expectObservable(at(300)).toBe('300ms (s|)', { s: [1] });
      expectObservable(at(1600)).toBe('1600ms (s|)', { s: [3, 'over'] });
    });
  });
});

/** A sitting here and its stage there, on clocks that lie 4000 ms apart, joined by a link that may be cut. */
function twoScreens(mode: 'tap' | 'spoken' = 'tap', asks = [asked('show:7:frame-fives'), asked('show:4:frame-fives')]) {
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
