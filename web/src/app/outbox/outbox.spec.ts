import { jest } from '@jest/globals';
import { HttpErrorResponse } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import {
  toRow,
  type BatchResult,
  type Me,
  type RecordBatch,
  type RecordRow,
  type RouteName,
  type Sent,
  type SittingRow,
} from '@vane/contract';
import { someResponse } from '@vane/core/testing/response';
import { Subject, of, throwError, type Observable } from 'rxjs';
import { Api } from '../api/api';
import { DevicePreferences } from '../device/devicePreferences';
import { Session } from '../signedIn/session';
import { KeptDatabase } from './keptDatabase';
import { KEPT_DATABASE, Outbox } from './outbox';

const SITTING: SittingRow = {
  id: 's1',
  routine: 'flash-and-say',
  started_at: '2026-11-25T09:00:00.000Z',
  answer_mode: 'tap',
  settings: null,
};
const row = (id: string, change: Partial<RecordRow> = {}): RecordRow => ({
  ...toRow(someResponse({ id, child: 'child', sitting: 's1', shownAt: Date.parse('2026-11-25T09:00:05Z') })),
  ...change,
});
const accepted = (batch: RecordBatch): BatchResult => ({
  accepted: batch.responses.map((r) => r.response_id),
  already: [],
  refused: [],
});
const refusal = (code: string): HttpErrorResponse =>
  new HttpErrorResponse({ status: 400, error: { type: 'x', title: 'x', status: 400, code } });
const silence = new HttpErrorResponse({ status: 0 });

/** The page's own clock, whatever a test plays. */
const later = setTimeout;
const turn = (): Promise<void> => new Promise((next) => later(next, 0));
/** Waits for what the outbox does by itself; a test that waits in vain says so. */
async function until(done: () => boolean): Promise<void> {
  for (let tries = 0; tries < 5000; tries++)
    if (done()) return;
    else await turn();
  throw new Error(`waited in vain for ${String(done)}`);
}
/** So many turns of the event loop that the outbox would have done by then what it should not do. */
async function stillness(): Promise<void> {
  for (let turns = 0; turns < 40; turns++) await turn();
}

/** The network is back, and all is sent that would be. */
async function sendAll(): Promise<void> {
  window.dispatchEvent(new Event('online'));
  await stillness();
}

let made = 0;
describe('the outbox', () => {
  let sent: RecordBatch[];
  let answer: (batch: RecordBatch, classId: string) => Observable<BatchResult>;
  const adult = (id: string) => ({ adult: { id } }) as Me;
  const me = signal<Me | null>(null);
  let outbox: Outbox;
  let kept: KeptDatabase;

  const open = (load = () => Promise.resolve(kept)): Outbox => {
    TestBed.resetTestingModule();
    TestBed.configureTestingModule({
      providers: [
        { provide: KEPT_DATABASE, useValue: load },
        { provide: Session, useValue: { me } },
        {
          provide: Api,
          useValue: {
            ask: (_: RouteName, { classId, body }: Sent<'POST /classes/:classId/record'>) => {
              sent.push(body as RecordBatch);
              return answer(body as RecordBatch, classId);
            },
          },
        },
      ],
    });
    return TestBed.inject(Outbox);
  };

  beforeEach(async () => {
    sent = [];
    me.set(adult('keeper'));
    answer = (batch) => of(accepted(batch));
    kept = new KeptDatabase(`outbox-${made++}`);
    outbox = open();
    await sendAll();
    await outbox.keepSitting('class', SITTING);
  });
  afterEach(async () => {
    await stillness();
    await kept.delete();
  });

  it('sends nothing that may still change, and everything once it is closed', async () => {
    await outbox.keepOpen('class', row('a'));
    await outbox.keepOpen('class', row('a', { observed: 'knew' }));
    await sendAll();
    expect(sent).toEqual([]);
    expect(outbox.state().waiting).toBe(1);
    await outbox.closeAll();
    await sendAll();
    const [{ sent_at, ...batch } = { sent_at: '' }] = sent;
    const device = TestBed.inject(DevicePreferences).code;
    expect(device).toMatch(/^[0-9a-f]{8}$/);
    const marked = { observed: 'knew', marked_by: 'keeper', device };
    expect(batch).toEqual({ sittings: [SITTING], responses: [row('a', marked)] });
    expect(sent).toHaveLength(1);
    // The device's clock goes along, so that a wrong one can be told.
    expect(Math.abs(Date.now() - Date.parse(sent_at ?? ''))).toBeLessThan(60_000);
    expect(outbox.state()).toEqual({ waiting: 0, others: 0, refused: 0, trouble: null });
  });

  it('says who marked and on what: the end of the adult’s id, and two screens are another device', async () => {
    me.set(adult('0197c0de-0000-7000-8000-0000deadbeef'));
    const quality = { asked_ms: null, frame_ms: 16.7, frames_ms: [], dropped_frames: 0, clock_ms: 0.4 };
    await outbox.keepOpen('class', row('a'));
    await outbox.keepOpen('class', row('b', { quality }));
    await outbox.closeAll();
    await sendAll();
    const device = TestBed.inject(DevicePreferences).code;
    expect(sent.flatMap((batch) => batch.responses.map((r) => [r.marked_by, r.device]))).toEqual([
      ['deadbeef', device],
      ['deadbeef', `${device}+2`],
    ]);
  });

  it('keeps what no answer came for, says why, and sends it again', async () => {
    answer = () => throwError(() => silence);
    await outbox.keepOpen('class', row('a'));
    await outbox.closeAll();
    await sendAll();
    expect(outbox.state()).toEqual({ waiting: 1, others: 0, refused: 0, trouble: 'the server does not answer' });
    answer = (batch) => of({ ...accepted(batch), accepted: [], already: ['a'] });
    await sendAll();
    expect(outbox.state()).toEqual({ waiting: 0, others: 0, refused: 0, trouble: null });
    expect(sent.map((b) => b.responses.map((r) => r.response_id))).toEqual([['a'], ['a']]);
  });

  it('asks a silent server again later and later, up to a quarter of a minute, and from a second on once it has answered', async () => {
    // The clock is played, and chance leaves nothing out; the device's store goes on by its own.
    jest.spyOn(Math, 'random').mockReturnValue(0);
    jest.useFakeTimers({
      doNotFake: [
        'queueMicrotask',
        'nextTick',
        'performance',
        'setTimeout',
        'clearTimeout',
        'setImmediate',
        'requestAnimationFrame',
        'cancelAnimationFrame',
      ],
    });
    try {
      const waits = async (tries: number): Promise<number[]> => {
        const seconds: number[] = [];
        for (let i = 0; i < tries; i++) {
          const [from, before] = [Date.now(), sent.length];
          while (sent.length === before) {
            await until(() => jest.getTimerCount() > 0);
            jest.advanceTimersToNextTimer();
            await stillness();
          }
          seconds.push((Date.now() - from) / 1000);
        }
        return seconds;
      };
      answer = () => throwError(() => silence);
      await outbox.keepOpen('class', row('a'));
      await outbox.closeAll();
      await until(() => sent.length > 0);
      expect(await waits(7)).toEqual([1, 2, 4, 8, 15, 15, 15]);
      answer = (batch) => of(accepted(batch));
      await waits(1);
      await until(() => outbox.state().waiting === 0);
      // The clock stands still: a wait that was left would stay.
      await until(() => jest.getTimerCount() === 0);
      answer = () => throwError(() => silence);
      await outbox.keepOpen('class', row('b'));
      await outbox.closeAll();
      expect(await waits(2)).toEqual([1, 2]);
    } finally {
      jest.useRealTimers();
      jest.restoreAllMocks();
    }
  });

  it('keeps what the server refuses, with the reason, and does not send it for ever', async () => {
    answer = () =>
      of({ accepted: ['b'], already: [], refused: [{ id: 'a', reason: 'this child is not in the class' }] });
    await outbox.keepOpen('class', row('a'));
    await outbox.keepOpen('class', row('b'));
    await outbox.closeAll();
    await sendAll();
    expect(outbox.state()).toMatchObject({ waiting: 0, refused: 1 });
    expect(await outbox.stuck()).toMatchObject([{ id: 'a', reason: 'this child is not in the class' }]);
    expect(sent).toHaveLength(1);
  });

  it('finds the one row that the server cannot read, and lets the others through', async () => {
    answer = (batch) =>
      batch.responses.some((r) => r.response_id === 'b') ? throwError(() => refusal('bad-body')) : of(accepted(batch));
    for (const id of ['a', 'b', 'c']) await outbox.keepOpen('class', row(id));
    await outbox.closeAll();
    await sendAll();
    expect((await outbox.stuck()).map((k) => k.id)).toEqual(['b']);
    expect(outbox.state().waiting).toBe(0);
  });

  it('is still while a show is on', async () => {
    outbox.hold();
    await outbox.keepOpen('class', row('a'));
    await outbox.closeAll();
    await sendAll();
    expect(sent).toEqual([]);
    expect(outbox.state().waiting).toBe(0);
    outbox.release();
    await sendAll();
    expect(sent).toHaveLength(1);
  });

  it('goes on at once after a hold that came while it was sending, however many holds there were', async () => {
    for (let hold = 0; hold < 3; hold++) {
      const gate = new Subject<BatchResult>();
      answer = () => gate;
      await outbox.keepOpen('class', row(`a${hold}`));
      await outbox.closeAll();
      await until(() => sent.length === 2 * hold + 1);
      // The next show begins while this answer is on its way; the answer after it is marked during the show.
      outbox.hold();
      await outbox.keepOpen('class', row(`b${hold}`));
      await outbox.closeAll();
      gate.next({ accepted: [`a${hold}`], already: [], refused: [] });
      gate.complete();
      await stillness();
      expect(sent).toHaveLength(2 * hold + 1);
      answer = (batch) => of(accepted(batch));
      outbox.release();
      await until(() => sent.length === 2 * hold + 2);
    }
    await until(() => outbox.state().waiting === 0);
    expect(outbox.state()).toEqual({ waiting: 0, others: 0, refused: 0, trouble: null });
  });

  it('sends what is closed just while an earlier sending comes to its end', async () => {
    // A browser takes its time to give a lock back: until it is let go of here.
    const gates: (() => void)[] = [];
    const request = async (_: string, __: unknown, run: () => Promise<unknown>): Promise<unknown> => {
      const result = await run();
      await new Promise<void>((go) => gates.push(go));
      return result;
    };
    Object.defineProperty(navigator, 'locks', { configurable: true, value: { request } });
    try {
      await outbox.keepOpen('class', row('late'));
      window.dispatchEvent(new Event('online'));
      await until(() => gates.length === 1);
      await outbox.closeAll();
      gates[0]!();
      await until(() => gates.length === 2);
      expect(sent).toHaveLength(1);
      gates[1]!();
      await until(() => outbox.state().waiting === 0);
    } finally {
      delete (navigator as { locks?: unknown }).locks;
    }
  });

  it('sends one batch at a time, however often it is asked', async () => {
    const gate = new Subject<BatchResult>();
    answer = () => gate;
    await outbox.keepOpen('class', row('a'));
    await outbox.closeAll();
    for (let times = 0; times < 3; times++) window.dispatchEvent(new Event('online'));
    await until(() => sent.length > 0);
    await stillness();
    expect(sent).toHaveLength(1);
    gate.next({ accepted: ['a'], already: [], refused: [] });
    gate.complete();
    await stillness();
    expect(sent).toHaveLength(1);
  });

  it('goes on where the device’s database did not arrive or could not be read, and says nothing wrong meanwhile', async () => {
    await outbox.keepOpen('class', row('a'));
    answer = () => throwError(() => silence);
    let fails = 3;
    const read = jest.spyOn(kept, 'all').mockImplementationOnce(() => throwError(() => new Error('not readable')));
    jest.spyOn(Math, 'random').mockReturnValue(0.99);
    outbox = open(() => (fails-- > 0 ? Promise.reject(new Error('not loaded')) : Promise.resolve(kept)));
    await until(() => fails < 3);
    expect(outbox.state()).toEqual({ waiting: 0, others: 0, refused: 0, trouble: null });
    for (let tries = 0; tries < 40 && outbox.state().waiting === 0; tries++)
      await new Promise((next) => later(next, 250));
    await until(() => outbox.state().trouble !== null);
    expect(outbox.state()).toEqual({ waiting: 1, others: 0, refused: 0, trouble: 'the server does not answer' });
    expect(read.mock.calls.length).toBeGreaterThan(1);
    jest.restoreAllMocks();
  });

  it('delivers what an ended tab left open', async () => {
    await outbox.keepOpen('class', row('a'));
    open();
    await until(() => sent.length > 0);
    expect(sent.flatMap((b) => b.responses.map((r) => r.response_id))).toEqual(['a']);
  });

  describe('with several adults and classes', () => {
    const refusing = (status: number, code: string): HttpErrorResponse =>
      new HttpErrorResponse({ status, error: { type: 'x', title: 'x', status, code } });
    const ids = (): string[] => sent.flatMap((b) => b.responses.map((r) => r.response_id));

    it('sends in nobody else’s name: what another adult marked waits until they sign in, or hand it over', async () => {
      await outbox.keepOpen('class', row('mine'));
      me.set(adult('mate'));
      await outbox.keepOpen('class', row('theirs'));
      await outbox.closeAll();
      await until(() => sent.length > 0);
      await stillness();
      expect(ids()).toEqual(['theirs']);
      expect(outbox.state()).toEqual({ waiting: 0, others: 1, refused: 0, trouble: null });
      expect((await outbox.stuck()).map((k) => k.id)).toEqual(['mine']);
      me.set(adult('keeper'));
      TestBed.tick();
      await until(() => ids().includes('mine'));
      await until(() => outbox.state().others === 0);
    });

    it('hands over what another adult marked, and throws away what nobody wants', async () => {
      await outbox.keepOpen('class', row('a'));
      await outbox.keepOpen('class', row('b'));
      me.set(adult('mate'));
      await outbox.closeAll();
      await stillness();
      expect(ids()).toEqual([]);
      await outbox.takeOver(['a']);
      await until(() => ids().length > 0);
      expect(ids()).toEqual(['a']);
      await outbox.throwAway(['b']);
      await until(() => outbox.state().others === 0);
      expect(outbox.state()).toEqual({ waiting: 0, others: 0, refused: 0, trouble: null });
    });

    it.each([
      [404, 'not-found'],
      [403, 'not-allowed'],
    ])('goes on behind a class that answers %i, and keeps its rows with the reason', async (status, code) => {
      answer = (batch, classId) =>
        classId === 'gone' ? throwError(() => refusing(status, code)) : of(accepted(batch));
      await outbox.keepOpen('gone', row('a'));
      await outbox.keepOpen('class', row('b'));
      await outbox.closeAll();
      await until(() => outbox.state().refused === 1 && outbox.state().waiting === 0);
      expect(ids()).toEqual(['a', 'b']);
      const [stuck] = await outbox.stuck();
      expect(stuck).toMatchObject({ id: 'a', state: 'refused' });
      expect(stuck?.reason).toContain('this class');
      expect(outbox.state()).toMatchObject({ waiting: 0, trouble: null });
    });

    it('goes on behind a class that the server cannot take just now, and asks for that one again', async () => {
      let full = true;
      answer = (batch, classId) =>
        classId === 'full' && full ? throwError(() => refusing(507, 'disk-full')) : of(accepted(batch));
      await outbox.keepOpen('full', row('a'));
      await outbox.keepOpen('class', row('b'));
      await outbox.closeAll();
      await until(() => outbox.state().waiting === 1 && outbox.state().trouble !== null);
      expect(outbox.state().trouble).toBe('the server’s disk is full');
      full = false;
      await sendAll();
      expect(outbox.state()).toEqual({ waiting: 0, others: 0, refused: 0, trouble: null });
    });
  });
});
