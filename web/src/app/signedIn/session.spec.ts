import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { firstValueFrom } from 'rxjs';
import { configure, ME } from '../testing/page';
import { Session } from './session';

describe('signing out', () => {
  it('asks for nothing of a class while it is under way, and goes on where it was when it did not work', async () => {
    configure();
    const server = TestBed.inject(HttpTestingController);
    const session = TestBed.inject(Session);
    const known = firstValueFrom(session.known());
    server.expectOne('/api/me').flush(ME);
    await known;
    const open = session.classId();
    expect(open).not.toBe('');
    session.signOut().subscribe({ error: () => undefined });
    expect(session.classId()).toBe('');
    server.expectOne('/api/sign-out').error(new ProgressEvent('error'));
    expect(session.classId()).toBe(open);
    session.signOut().subscribe();
    server.expectOne('/api/sign-out').flush({ ok: true });
    expect(session.me()).toBeNull();
    expect(session.classId()).toBe('');
  });
});
