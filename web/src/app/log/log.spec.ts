import { ScrollingModule } from '@angular/cdk/scrolling';
import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { type CorrectionRequest } from '@vane/contract';
import { answerRow } from '../carpet/sitting/rows';
import { asked } from '../testing/played';
import { KEPT_DATABASE } from '../outbox/outbox';
import { firstValueFrom } from 'rxjs';
import { Session } from '../signedIn/session';
import { CLASS, configure, ME, text } from '../testing/page';
import { LogPage } from './log.page';
import type { LogRow } from './logSource';

const row = (id: string, change: Partial<LogRow> = {}): LogRow => ({
  ...answerRow(
    {
      id,
      child: 'oriel',
      sitting: 's1',
      shownAt: Date.parse('2026-11-25T09:00:00Z'),
      fact: 'show:7:frame-fives',
      aid: 'none',
    },
    asked('show:7:frame-fives'),
    '8',
    { mode: 'tap', spoiled: false, askedMs: 750 },
    { exposureMs: 750, responseMs: 1400, flags: [], framesMs: [], frameMs: 16.7, droppedFrames: 0 },
  ),
  nickname: 'Oriel',
  routine: 'flash-and-say',
  corrected: null,
  notes: [],
  ...change,
});

async function open(rows: readonly LogRow[]) {
  configure();
  TestBed.overrideProvider(KEPT_DATABASE, { useValue: () => new Promise(() => undefined) });
  // Without a layout nothing is in view: all lines are drawn.
  TestBed.overrideComponent(LogPage, {
    remove: { imports: [ScrollingModule] },
    add: {
      template: `@if (source(); as lines) {
        <cdk-table [dataSource]="lines">
          <ng-container cdkColumnDef="said"><cdk-cell *cdkCellDef="let line">{{ line.words.answer }}, {{ line.words.notes }}</cdk-cell></ng-container>
          <cdk-row *cdkRowDef="let line; columns: ['said']" />
        </cdk-table>
      }
      <b role="alert">{{ trouble() }}</b>`,
    },
  });
  const server = TestBed.inject(HttpTestingController);
  const signedIn = firstValueFrom(TestBed.inject(Session).known());
  server.expectOne('/api/me').flush(ME);
  await signedIn;
  const fixture = TestBed.createComponent(LogPage);
  fixture.detectChanges();
  server.expectOne('/api/classes/class').flush(CLASS);
  const answer = async (): Promise<string> => {
    const request = server.expectOne((r) => r.url === '/api/classes/class/log');
    request.flush({ rows, total: rows.length });
    await fixture.whenStable();
    return request.request.params.toString();
  };
  const page = fixture.componentInstance;
  return { fixture, page, server, answer };
}

/** The filter waits until nothing is changed any more. */
const settled = (): Promise<void> => new Promise((later) => setTimeout(later, 300));

describe('the log', () => {
  it('says in words what was answered, and what was put right by whom', async () => {
    const corrected = { by: 'Harbour keeper', at: '2026-11-25T10:00:00Z', was: 'Oriel: 9' };
    const { fixture, answer } = await open([
      row('r1'),
      row('r2', { corrected, void: 'interrupted', given: '', outcome: 'none' }),
    ]);
    await answer();
    expect(text(fixture)).toContain('8 (wrong)');
    expect(text(fixture)).toContain('no answer, interrupted, corrected by Harbour keeper, 25 Nov (first Oriel: 9)');
  });

  it('asks the server for what is chosen, and for everything again when that is emptied', async () => {
    const { fixture, page, answer } = await open([row('r1')]);
    expect(await answer()).toBe('offset=0');
    page.filter.patchValue({ child: 'oriel', fact: ' 3+4' });
    await settled();
    fixture.detectChanges();
    expect(await answer()).toBe('child=oriel&fact=3%2B4&offset=0');
    expect(page.narrowed()).toBe(true);
    page.filter.reset();
    await settled();
    fixture.detectChanges();
    expect(await answer()).toBe('offset=0');
  });

  it('sends what is put right and shows the log anew; a refusal is told and nothing is lost', async () => {
    const { fixture, page, server, answer } = await open([row('r1')]);
    await answer();
    page.correct(row('r1'), { what: 'void', reason: 'helped' });
    const sent = server.expectOne('/api/classes/class/corrections');
    expect(sent.request.body as CorrectionRequest).toEqual({
      responses: ['r1'],
      change: { what: 'void', reason: 'helped' },
    });
    sent.flush({ changed: 1 });
    fixture.detectChanges();
    await answer();
    page.restoreSitting('s1');
    const refused = server.expectOne('/api/classes/class/corrections');
    expect(refused.request.body as CorrectionRequest).toMatchObject({ sitting: 's1' });
    refused.flush(
      { type: '', title: 'This cannot be put right in this way', status: 422, code: 'not-correctable' },
      { status: 422, statusText: 'no' },
    );
    await fixture.whenStable();
    expect(text(fixture)).toContain('This cannot be put right in this way.');
    expect(text(fixture)).toContain('8 (wrong)');
  });

  it('asks before a whole session is void, and takes that back in one press', async () => {
    const { fixture, page, server, answer } = await open([row('r1')]);
    await answer();
    const press = async (name: string) => {
      const all = [...document.querySelectorAll('button')].filter((one) => one.textContent?.trim() === name);
      all.at(-1)!.click();
      await fixture.whenStable();
    };
    page.voidSitting(row('r1'));
    await fixture.whenStable();
    server.expectNone('/api/classes/class/corrections');
    expect(document.body.textContent).toContain('count for nothing');
    await press('Void the session');
    const sent = server.expectOne('/api/classes/class/corrections');
    expect(sent.request.body).toMatchObject({ sitting: 's1', change: { what: 'void' } });
    sent.flush({ changed: 16 });
    fixture.detectChanges();
    await answer();
    expect(page.voided()?.words).toBe('16 answers void.');
    page.restoreSitting('s1');
    const undone = server.expectOne('/api/classes/class/corrections').request.body as CorrectionRequest;
    expect(undone).toMatchObject({ sitting: 's1', change: { what: 'valid' } });
    expect(page.voided()).toBeNull();
  });
});
