import fc from '../testing/property';
import {
  COVER_MS,
  EARLIEST_MS,
  exposureError,
  readyTrial,
  SLOW_HANDLER_MS,
  trial,
  type TrialAsk,
  type TrialEffect,
  type TrialEvent,
  type TrialState,
} from './machine';
import { measured } from './measured';

const FRAME = 1000 / 60;
const TAP: TrialAsk = { exposureMs: 750, answerMode: 'tap', frameMs: FRAME };

/** Plays events and collects the effects. */
function play(state: TrialState, events: readonly TrialEvent[]): { state: TrialState; effects: TrialEffect[] } {
  const effects: TrialEffect[] = [];
  for (const event of events) {
    const [next, more] = trial(state, event);
    state = next;
    effects.push(...more);
  }
  return { state, effects };
}

/** Frames from `from` (inclusive), one display frame apart. */
const frames = (from: number, count: number, frameMs = FRAME): TrialEvent[] =>
  Array.from({ length: count }, (_, i) => ({ type: 'frame', at: from + i * frameMs }));
const begun = (ask: TrialAsk, count: number): TrialState =>
  play(readyTrial(ask), [{ type: 'begin' }, ...frames(1000, count, ask.frameMs)]).state;
const answer = (given: string, at: number, handledAt = at + 2): TrialEvent => ({
  type: 'answer',
  given,
  at,
  handledAt,
});

describe('a trial', () => {
  it('shows in the first frame, covers when the time is up, then clears', () => {
    const { state, effects } = play(readyTrial(TAP), [{ type: 'begin' }, ...frames(1000, 80)]);
    expect(effects).toEqual(['appear', 'cover', 'clear']);
    expect(state.phase).toBe('answer');
    expect(measured(state).exposureMs).toBeCloseTo(750, 0);
    expect(state.flags).toEqual([]);
  });

  it('covers for its time, not longer and not shorter', () => {
    const covered = begun({ ...TAP, frameMs: 10 }, 76);
    expect([covered.phase, covered.offsetAt]).toEqual(['mask', 1750]);
    expect(play(covered, [{ type: 'frame', at: 1750 + COVER_MS - 1 }]).state.phase).toBe('mask');
    expect(play(covered, [{ type: 'frame', at: 1750 + COVER_MS }])).toMatchObject({
      state: { phase: 'answer' },
      effects: ['clear'],
    });
  });

  it('tells when every frame came, counted from the first', () => {
    expect(measured(begun({ ...TAP, frameMs: 10 }, 4)).framesMs).toEqual([0, 10, 20, 30]);
    const never = play(readyTrial({ ...TAP, frameMs: 10 }), [
      { type: 'begin' },
      { type: 'disturbed', why: 'hidden' },
    ]).state;
    expect(measured(never)).toEqual({
      exposureMs: null,
      responseMs: null,
      framesMs: [],
      droppedFrames: 0,
      flags: ['hidden'],
      frameMs: 10,
    });
  });

  it('keeps every exposure within half a frame of what was asked, at any rate of the display', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 200, max: 3000 }),
        fc.double({ min: 4, max: 34, noNaN: true }),
        (exposureMs, frameMs) => {
          const count = Math.ceil((exposureMs + COVER_MS) / frameMs) + 4;
          const state = begun({ exposureMs, answerMode: 'tap', frameMs }, count);
          expect(exposureError(state)).toBeLessThanOrEqual(frameMs / 2 + 1e-6);
          expect(measured(state).droppedFrames).toBe(0);
        },
      ),
    );
  });

  it('stays when asked to stay, and its exposure ends with the answer', () => {
    const shown = begun({ ...TAP, exposureMs: null }, 300);
    expect(shown.phase).toBe('show');
    const { state, effects } = play(shown, [answer('7', 3456)]);
    expect(effects).toEqual(['clear', 'answered']);
    expect(measured(state)).toMatchObject({ exposureMs: 2456, responseMs: 2456, flags: [] });
  });

  it('times a tap from the onset frame by the press, not by its handling', () => {
    const { state } = play(begun(TAP, 90), [answer('7', 2534.4, 2560)]);
    expect(measured(state).responseMs).toBeCloseTo(1534.4, 1);
    expect(state).toMatchObject({ phase: 'feedback', given: '7' });
  });

  it('takes a tap during the show and during the cover', () => {
    const during = play(begun(TAP, 20), [answer('3', 1300)]).state;
    expect(measured(during)).toMatchObject({ exposureMs: 300, responseMs: 300 });
    expect(during.flags).toEqual([]);
    expect(play(begun(TAP, 50), [answer('3', 1800)]).state.phase).toBe('feedback');
  });

  it('counts only the first answer', () => {
    const once = play(begun(TAP, 90), [answer('7', 2500)]).state;
    expect(play(once, [answer('8', 2600)])).toEqual({ state: once, effects: [] });
  });

  it('times a spoken answer at the stop and takes the number later', () => {
    const { state, effects } = play(begun({ ...TAP, answerMode: 'spoken' }, 90), [
      { type: 'stop', at: 2400, handledAt: 2401 },
      answer('6', 4000),
    ]);
    expect(effects).toEqual(['stopped', 'clear', 'answered']);
    expect(measured(state)).toMatchObject({ responseMs: 1400 });
  });

  it('keeps the first stop: what comes after it is the adult, not the child', () => {
    const stopped = play(begun({ ...TAP, answerMode: 'spoken' }, 90), [
      { type: 'stop', at: 2400, handledAt: 2401 },
    ]).state;
    const later: TrialEvent[] = [
      { type: 'stop', at: 5000, handledAt: 5000 },
      { type: 'disturbed', why: 'blurred' },
    ];
    expect(play(stopped, later)).toEqual({ state: stopped, effects: [] });
  });

  it('knows no time for a spoken answer whose clock nobody stopped', () => {
    const { state } = play(begun({ ...TAP, answerMode: 'spoken' }, 90), [answer('6', 4000)]);
    expect(measured(state).responseMs).toBeNull();
  });

  it('records that no answer came', () => {
    const { state, effects } = play(begun(TAP, 90), [{ type: 'no-answer' }]);
    expect(effects).toEqual(['clear', 'answered']);
    expect(state).toMatchObject({ given: '', pressedAt: null });
  });

  it('ignores what means nothing before the show', () => {
    const ready = readyTrial(TAP);
    for (const event of [
      answer('1', 5),
      { type: 'stop', at: 5, handledAt: 5 },
      { type: 'no-answer' },
      { type: 'take-back' },
      { type: 'frame', at: 5 },
    ] as const) {
      expect(play(ready, [event])).toEqual({ state: ready, effects: [] });
    }
    const waiting = play(ready, [{ type: 'begin' }]).state;
    for (const event of [answer('1', 5), { type: 'no-answer' }, { type: 'stop', at: 5, handledAt: 5 }] as const) {
      expect(play(waiting, [event])).toEqual({ state: waiting, effects: [] });
    }
  });

  it('ignores what means nothing after the answer', () => {
    const done = play(begun(TAP, 90), [answer('7', 2500)]).state;
    for (const event of [
      { type: 'begin' },
      { type: 'stop', at: 2600, handledAt: 2600 },
      { type: 'no-answer' },
      { type: 'frame', at: 2600 },
    ] as const) {
      expect(play(done, [event])).toEqual({ state: done, effects: [] });
    }
  });

  describe('flags', () => {
    it.each(['hidden', 'blurred', 'paused'] as const)('%s while asking, not afterwards', (why) => {
      const asking = begun(TAP, 60);
      expect(play(asking, [{ type: 'disturbed', why }]).state.flags).toEqual([why]);
      expect(play(asking, [answer('7', 2500), { type: 'disturbed', why }]).state.flags).toEqual([]);
    });

    it('a missed frame in a limited show, and counts them', () => {
      const events: TrialEvent[] = [{ type: 'begin' }, ...frames(1000, 10), ...frames(1000 + 12 * FRAME, 80)];
      const { state } = play(readyTrial(TAP), events);
      expect(state.flags).toEqual(['dropped-frame']);
      expect(measured(state).droppedFrames).toBe(2);
    });

    it('no missed frame in a show that stays', () => {
      const { state } = play(readyTrial({ ...TAP, exposureMs: null }), [
        { type: 'begin' },
        ...frames(1000, 10),
        ...frames(1500, 10),
      ]);
      expect(state.flags).toEqual([]);
    });

    it('an exposure that a frozen page made too long', () => {
      const { state } = play(readyTrial(TAP), [
        { type: 'begin' },
        ...frames(1000, 40),
        { type: 'frame', at: 2000 },
        answer('7', 2600),
      ]);
      expect(state.flags).toEqual(expect.arrayContaining(['dropped-frame', 'exposure-off']));
      expect(measured(state).exposureMs).toBe(1000);
    });

    it('a press that was handled late, and one that came too early', () => {
      expect(play(begun(TAP, 90), [answer('7', 2500, 2600)]).state.flags).toEqual(['slow-handler']);
      expect(play(begun(TAP, 90), [answer('7', 2500, 2500 + SLOW_HANDLER_MS)]).state.flags).toEqual([]);
      expect(play(begun(TAP, 8), [answer('7', 1000 + EARLIEST_MS - 1)]).state.flags).toEqual(['early']);
      expect(play(begun(TAP, 8), [answer('7', 1000 + EARLIEST_MS)]).state.flags).toEqual([]);
    });
  });

  describe('taking back', () => {
    it('keeps the moment at which the child spoke', () => {
      const spoken = play(begun({ ...TAP, answerMode: 'spoken' }, 90), [
        { type: 'stop', at: 2400, handledAt: 2401 },
        answer('6', 4000),
        { type: 'take-back' },
      ]);
      expect(spoken.effects.slice(-1)).toEqual(['stopped']);
      expect(measured(play(spoken.state, [answer('7', 9000)]).state)).toMatchObject({ responseMs: 1400, flags: [] });
    });

    it('leaves a spoken answer without a time when nobody stopped the clock', () => {
      const { state, effects } = play(begun({ ...TAP, answerMode: 'spoken' }, 90), [
        answer('6', 4000),
        { type: 'take-back' },
      ]);
      expect([state.flags, effects]).toEqual([['remarked'], ['clear', 'answered']]);
    });

    it('leaves a tapped answer without a time', () => {
      const { state } = play(begun(TAP, 90), [answer('6', 2500), { type: 'take-back' }, answer('7', 9000)]);
      expect(measured(state)).toMatchObject({ responseMs: null, flags: ['remarked'] });
      expect(state.given).toBe('7');
    });
  });
});
