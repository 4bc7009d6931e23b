import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { DEFAULT_CARPET, type ClassView, type RecordRow, type SittingRow } from '@vane/contract';
import { toResponse } from '@vane/contract';
import { isEvidence } from '@vane/core/reading/evidenceOf';
import { Outbox } from '../outbox/outbox';
import { givenWords } from '../parts/rowWords';
import { Session } from '../signedIn/session';
import { CHILDREN, configure, ME, text } from '../testing/page';
import { HEARD, heardRow } from './heard';
import { ListenPage } from './listen.page';

describe('what was only heard', () => {
  const asked = { child: 'odo', sitting: 's', fact: '3+4', cubes: false };
  it.each([
    ['saw', 'knew', 'correct', '7'],
    ['worked-out', 'derived', 'correct', '7'],
    ['counted', 'counted', 'correct', '7'],
    ['not-yet', '', 'wrong', ''],
  ] as const)('%s is recorded without a time, as %j', (heard, observed, outcome, given) =>
    expect(heardRow(asked, heard, 0)).toMatchObject({
      observed,
      outcome,
      given,
      answer_mode: 'spoken',
      response_ms: null,
      exposure_ms: null,
      aid: 'none',
    }),
  );

  it('is shown as wrong, without a number that nobody wrote down', () =>
    expect(givenWords(heardRow(asked, 'not-yet', 0))).toBe('wrong'));

  it('is judged from memory, and not with cubes in view', () => {
    for (const heard of HEARD) {
      expect(isEvidence(toResponse(heardRow(asked, heard, 0)))).toBe(true);
      expect(isEvidence(toResponse(heardRow({ ...asked, cubes: true }, heard, 0)))).toBe(false);
    }
  });
});

describe('listening', () => {
  async function listen() {
    configure();
    const kept: RecordRow[] = [];
    const sittings: SittingRow[] = [];
    const outbox: Partial<Outbox> = {
      keepSitting: (_, row) => Promise.resolve(void sittings.push(row)),
      keepOpen: (_, row) => Promise.resolve(void kept.push(row)),
      closeAll: () => Promise.resolve(),
      state: (() => ({ waiting: 0, others: 0, refused: 0, trouble: null })) as Outbox['state'],
    };
    TestBed.overrideProvider(Outbox, { useValue: outbox });
    const http = TestBed.inject(HttpTestingController);
    TestBed.inject(Session).signIn('a', 'b').subscribe();
    http.expectOne('/api/sign-in').flush(ME);
    const fixture = TestBed.createComponent(ListenPage);
    TestBed.tick();
    const children = CHILDREN.map((child, i) => ({
      ...child,
      workingNumber: 6,
      lastAskedAt: i === 0 ? '2026-11-24T09:00:00Z' : '2026-11-20T09:00:00Z',
    }));
    const view: ClassView = {
      id: 'class',
      name: 'Curlew',
      children,
      away: [],
      carpet: DEFAULT_CARPET,
      routinesUsed: [],
      arranged: { day: null, week: null },
    };
    http.expectOne('/api/classes/class').flush(view);
    http
      .expectOne('/api/classes/class/readings')
      .flush({ judgedAt: null, modelVersion: '', judging: 'done', readings: [], asked: [] });
    await fixture.whenStable();
    const press = async (words: string): Promise<void> => {
      const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
      buttons.find((one) => one.textContent.trim() === words)!.click();
      await fixture.whenStable();
    };
    const last = (): RecordRow[] => [...new Map(kept.map((row) => [row.response_id, row])).values()];
    return { fixture, press, last, sittings, page: fixture.componentInstance };
  }

  it('begins with who was not heard for longest, asks the next fact after each mark, and undoes the last', async () => {
    const { fixture, press, last, sittings, page } = await listen();
    expect(page.childId()).toBe('tamsin');
    const first = page.fact();
    await press('counted');
    expect(page.fact()).not.toBe(first);
    expect(text(fixture)).toContain('counted');
    await press('knew it');
    await press('Undo');
    expect(last().map((row) => [row.observed, row.void])).toEqual([
      ['counted', ''],
      ['knew', 'undone'],
    ]);
    expect(page.fact()).toBe(last()[1]!.fact);
    await press('worked it out');
    expect(last()[2]).toMatchObject({ fact: last()[1]!.fact, observed: 'derived', void: '' });
    expect(sittings).toMatchObject([{ routine: 'listen-only', answer_mode: 'spoken' }]);
  });

  it('takes the adult’s own fact, with cubes, and leads to the next child', async () => {
    const { fixture, press, last, page } = await listen();
    page.whole.set(4);
    await fixture.whenStable();
    await press('3 + 1');
    await press('with cubes');
    await press('knew it');
    expect(last()[0]).toMatchObject({ child: 'tamsin', fact: '3+1', aid: 'objects' });
    await press('Next: Oriel');
    expect(page.childId()).toBe('oriel');
  });
});
