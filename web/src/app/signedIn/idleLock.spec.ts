import { jest } from '@jest/globals';
import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { firstValueFrom } from 'rxjs';
import { Session } from './session';
import { configure, ME, text } from '../testing/page';
import { IdleLock } from './idleLock';
import { Locked } from './locked';
import { WholeScreen } from '../device/wholeScreen';

/** What a school is told: ten minutes. */
const IDLE_MS = 600_000;

async function signedIn(change: object) {
  configure();
  const server = TestBed.inject(HttpTestingController);
  const session = TestBed.inject(Session);
  const known = firstValueFrom(session.known());
  server.expectOne('/api/me').flush({ ...ME, ...change });
  await known;
  return { server, session, idle: TestBed.inject(IdleLock) };
}

describe('a device that is left alone', () => {
  beforeEach(() => jest.useFakeTimers({ now: new Date('2026-11-25T09:00:00Z') }));
  afterEach(() => jest.useRealTimers());

  it('is locked after a while when its adult has a pin, and not while it is touched or a sitting runs', async () => {
    const { server, session, idle } = await signedIn({ hasPin: true });
    idle.watched().subscribe();
    const pass = (ms: number): void => void jest.advanceTimersByTime(ms);
    pass(IDLE_MS - 10_000);
    window.dispatchEvent(new Event('pointerdown'));
    pass(IDLE_MS - 1000);
    server.expectNone('/api/me/lock');
    TestBed.inject(WholeScreen).taken.set(true);
    pass(60_000);
    server.expectNone('/api/me/lock');
    TestBed.inject(WholeScreen).taken.set(false);
    pass(10_000);
    server.expectOne('/api/me/lock').flush({ locked: true });
    expect(session.locked()).toBe(true);
  });

  it('tells the server that somebody is here, now and then, and is locked without it too', async () => {
    const { server, session, idle } = await signedIn({ hasPin: true });
    idle.watched().subscribe();
    jest.advanceTimersByTime(10_000);
    // One that hangs holds nothing up.
    server.expectOne('/api/me/active');
    jest.advanceTimersByTime(IDLE_MS);
    server.expectNone('/api/me/active');
    server.expectOne('/api/me/lock').error(new ProgressEvent('error'));
    expect(session.locked()).toBe(true);
  });

  it('is not locked when its adult has no pin', async () => {
    const { server, idle } = await signedIn({ hasPin: false });
    idle.watched().subscribe();
    jest.advanceTimersByTime(3 * IDLE_MS);
    server.expectNone('/api/me/lock');
  });

  it('is unlocked by the right pin, says when it was wrong, and leads out when there were too many', async () => {
    const { server, session } = await signedIn({ hasPin: true, locked: true });
    const fixture = TestBed.createComponent(Locked);
    fixture.detectChanges();
    const give = (pin: string): void => {
      fixture.componentInstance.pin.setValue(pin);
      fixture.componentInstance.unlock(new Event('submit'));
    };
    const refuse = (code: string): void =>
      server
        .expectOne('/api/me/unlock')
        .flush({ type: 'x', title: 'This is not your pin', status: 401, code }, { status: 401, statusText: 'no' });
    give('1');
    refuse('wrong-pin');
    fixture.detectChanges();
    expect(text(fixture)).toContain('This is not your pin.');
    expect(session.locked()).toBe(true);
    give('4711');
    server.expectOne('/api/me/unlock').flush(null);
    expect(session.locked()).toBe(false);
    give('2');
    refuse('not-signed-in');
    expect(session.me()).toBeNull();
  });
});
