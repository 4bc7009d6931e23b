import { dealTurns, makeAsk } from '@vane/core';
import fc, { TRIES } from '@vane/core/testing/property';
import { asked, SETTINGS } from '../../testing/played';
import { stepSitting, type Gesture, type SittingEffect, type Surroundings } from './sittingMachine';
import { beginSitting, canUndo, helpsOf, type SittingState } from './sittingState';
import type { SittingWish } from './sittingWish';

const [odo, ivo] = [
  { id: 'odo', nickname: 'Odo' },
  { id: 'ivo', nickname: 'Ivo' },
];
const talk = makeAsk(null, { show: 'nothing' }, { say: 'thanks' }, { want: { by: 'talk' } });
const wish = (change: Partial<SittingWish> = {}): SittingWish => ({
  classId: 'class',
  children: [odo, ivo],
  classmates: [odo, ivo],
  settings: SETTINGS,
  turns: dealTurns([odo, ivo].map(({ id }) => ({ child: id, asks: ['show:3:five', 'show:7:frame-fives'].map(asked) }))),
  follow: () => [],
  choral: false,
  open: false,
  shared: false,
  ...change,
});
const NEAR: Surroundings = { here: true, asking: true, board: null, now: 0, newId: 'r1' };
const RESULT = { exposureMs: 500, responseMs: 900, flags: [], framesMs: [], frameMs: 16.7, droppedFrames: 0 };
const said = (given: string): Gesture => ({ type: 'answered', given, result: RESULT, shownAt: 0, within: 0 });

/** The state after some gestures, with all that was to be done outside. */
function played(
  of: SittingWish,
  ...gestures: readonly (Gesture | readonly [Gesture, Partial<Surroundings>])[]
): { state: SittingState; done: SittingEffect[] } {
  let state = beginSitting('s1', of);
  const done: SittingEffect[] = [];
  gestures.forEach((one, i) => {
    const [gesture, near] = 'type' in one ? [one, {}] : one;
    const [next, effects] = stepSitting(of, state, gesture, { ...NEAR, newId: `r${i}`, ...near });
    state = next;
    done.push(...effects);
  });
  return { state, done };
}
const what = (done: readonly SittingEffect[]): string[] => done.map((one) => one.do);

describe('the machine of a sitting', () => {
  it('waits for a stage that somebody sees, shows, and keeps an answer in its turn', () => {
    const alone = played(wish(), [{ type: 'ready' }, { here: false }], { type: 'go-on', at: 0 });
    expect([alone.state.moment, alone.state.waiting, what(alone.done)]).toEqual([
      'ready',
      true,
      ['abandon', 'stop-waiting'],
    ]);
    const { state, done } = played(wish(), { type: 'ready' }, { type: 'go-on', at: 0 }, said('3'));
    expect([state.moment, state.given, state.row?.child]).toEqual(['answered', '3', 'odo']);
    expect(what(done).slice(-4)).toEqual(['hold', 'begin', 'keep', 'release']);
  });

  it('goes back to the answer before, and enters it anew without its time', () => {
    const once: Gesture[] = [
      { type: 'ready' },
      { type: 'go-on', at: 0 },
      said('4'),
      { type: 'next' },
      { type: 'undo' },
    ];
    const back = played(wish(), ...once);
    expect([back.state.moment, back.state.given, back.state.line.index]).toEqual(['answered', '4', 0]);
    const anew = played(wish(), ...once, { type: 'undo' }, { type: 'answer', given: '3', at: 0 });
    expect(anew.state.row).toMatchObject({ response_id: 'r6', given: '3', outcome: 'correct', flags: ['remarked'] });
    expect(anew.state.open.map((row) => [row.given, row.void])).toEqual([
      ['3', ''],
      ['4', 'undone'],
    ]);
  });

  it('a show that was spoiled is asked again; an answer that was spoiled is left out, and gone on from', () => {
    const asking: Gesture[] = [{ type: 'ready' }, { type: 'go-on', at: 0 }];
    const again = played(wish(), ...asking, { type: 'spoil' }, said(''));
    expect([again.state.moment, again.state.line.index, again.state.open[0]?.void]).toEqual(['ready', 0, 'spoiled']);
    const shown = stepSitting(wish(), again.state, { type: 'go-on', at: 0 }, NEAR)[0];
    // It was seen before.
    expect([shown.moment, shown.aid]).toEqual(['asking', 'second-look']);
    const gone = played(wish(), ...asking, said('4'), { type: 'spoil' });
    expect([gone.state.moment, helpsOf(wish(), gone.state)]).toEqual(['answered', []]);
    expect(stepSitting(wish(), gone.state, { type: 'next' }, NEAR)[0].line.index).toBe(1);
  });

  it('what another child answered aloud a moment ago, or it turned round, is marked as heard; seen amounts are not', () => {
    const sum = (fact: string) => makeAsk(fact, { show: 'sentence', fact }, { say: 'sentence', fact });
    const flags = (facts: readonly [string, string], minutes: number): readonly string[] => {
      const turns = [odo, ivo].map(({ id }, i) => ({ child: id, ask: sum(facts[i]!) }));
      const of = wish({ turns });
      const first = played(of, { type: 'ready' }, { type: 'go-on', at: 0 }, said('5'), { type: 'next' }).state;
      const near = { ...NEAR, now: 60_000 * minutes, newId: 'later' };
      const shown = stepSitting(of, first, { type: 'go-on', at: 0 }, near)[0];
      return stepSitting(of, shown, said('5'), near)[0].row?.flags ?? [];
    };
    expect(flags(['2+3', '3+2'], 1)).toEqual(['heard']);
    expect(flags(['bond:7:3', '4+?=7'], 1)).toEqual(['heard']);
    expect(flags(['2+3', '5-3'], 1)).toEqual([]);
    expect(flags(['2+3', '3+2'], 5)).toEqual([]);
    expect(flags(['show:5:dice', 'show:5:dice'], 1)).toEqual([]);
  });

  it('a picture that only changes, and one that stays, come without a ready; another clears the stage', () => {
    const frame = (count: number, changes: boolean) =>
      makeAsk(`show:${count}:frame-fives`, { show: 'frame', layout: 'frame-fives', count, direction: 'rows' }, { say: 'how-many-now' }, { changes }); // prettier-ignore
    const after = (changes: boolean): string[] => {
      const turns = [frame(5, false), frame(7, changes)].map((ask) => ({ child: 'odo', ask }));
      const { done } = played(wish({ turns, children: [odo] }), { type: 'ready' }, { type: 'go-on', at: 0 }, said('5'), { type: 'next' }); // prettier-ignore
      return what(done.slice(-4));
    };
    expect(after(true)).toEqual(['close', 'stop-waiting', 'hold', 'begin']);
    expect(after(false)).toContain('abandon');
  });

  it('what was seen and not answered is, shown again, a second look', () => {
    const { state } = played(
      wish(),
      { type: 'ready' },
      { type: 'go-on', at: 0 },
      said('3'),
      { type: 'next' },
      { type: 'go-on', at: 0 },
      { type: 'undo' },
      { type: 'next' },
      { type: 'go-on', at: 0 },
    );
    expect([state.line.index, state.aid]).toEqual([1, 'second-look']);
  });

  it('keeps still only while a child is asked, and loses no row, whatever is pressed', () => {
    const gesture = fc.oneof(
      ...(['no-answer', 'second-look', 'undo', 'spoil', 'pause', 'next', 'go-later'] as const).map((type) =>
        fc.constant<Gesture>({ type }),
      ),
      fc.constant<Gesture>({ type: 'go-on', at: 0 }),
      fc.constant<Gesture>({ type: 'ready-over' }),
      fc.constantFrom('3', '7', '9').map((given): Gesture => ({ type: 'answer', given, at: 0 })),
      fc.nat(10).map((n): Gesture => ({ type: 'digit', n, at: 0 })),
      fc.nat(4).map((place): Gesture => ({ type: 'place', place })),
      fc.constantFrom(odo.id, ivo.id).map((child): Gesture => ({ type: 'away', child })),
      fc.constantFrom(odo, ivo).map((child): Gesture => ({ type: 'was-another', child })),
      fc.constant<Gesture>({ type: 'sign', sign: 'counted' }),
      fc.constant<Gesture>({ type: 'lost' }),
      fc.constantFrom('3', '7', '', '8').map(said),
    );
    const turns = dealTurns([
      { child: 'odo', asks: [talk, asked('show:3:five'), asked('match:4'), asked('show:7:frame-fives')] },
      { child: 'ivo', asks: ['show:3:five', 'show:4:five'].map(asked) },
    ]);
    fc.assert(
      fc.property(fc.array(gesture, { minLength: 30, maxLength: 60 }), fc.boolean(), (gestures, choral) => {
        const of = wish({ turns, choral });
        let state = played(of, { type: 'ready' }).state;
        let held = false;
        const rows = new Map<string, string>();
        gestures.forEach((one, i) => {
          const asking = state.moment === 'asking' || state.moment === 'stopped';
          // A stage answers only while it asks, and a ready is over only while it runs.
          if ((one.type === 'answered' && !asking) || (one.type === 'ready-over' && !state.coming)) return;
          const [next, effects] = stepSitting(of, state, one, { ...NEAR, asking, newId: `r${i}` });
          for (const effect of effects) {
            if (effect.do === 'hold') held = true;
            if (effect.do === 'release') held = false;
            if (effect.do === 'keep') rows.set(effect.row.response_id, JSON.stringify(effect.row));
            if (effect.do === 'begin') expect(next.moment).toBe('asking');
          }
          state = next;
          if (held) expect(['asking', 'stopped']).toContain(state.moment);
          expect(state.open.length).toBeLessThanOrEqual(5);
          for (const row of [...state.open, ...(state.row === null ? [] : [state.row])])
            expect(rows.get(row.response_id)).toBe(JSON.stringify(row));
          if (state.moment === 'done') expect(state.row).toBeNull();
          if (state.firstPart === null && state.moment === 'stopped') expect(canUndo(state)).toBe(false);
        });
      }),
      { seed: 8263, numRuns: Math.max(TRIES, 200) },
    );
  });
});
