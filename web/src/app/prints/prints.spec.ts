import { HttpTestingController } from '@angular/common/http/testing';
import { TestKey } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatChipGridHarness } from '@angular/material/chips/testing';
import { TestBed } from '@angular/core/testing';
import { recordRow, type GroupSheetView } from '@vane/contract';
import { Outbox } from '../outbox/outbox';
import { Session } from '../signedIn/session';
import { CHILDREN, CLASS, configure, ME, text } from '../testing/page';
import { GroupSheets } from './groupSheets';
import { cellName, cellProblem, rowsOfSheet } from './keyIn';
import { KeyInPage } from './keyIn.page';
import { OPEN_PDF } from './pdfPages';
import { PrintsPage } from './prints.page';

const drawn = (): Promise<object> =>
  Promise.resolve({ count: 14, draw: () => Promise.resolve(), close: () => Promise.resolve() });

function signedIn(outbox: object = {}, open = drawn): HttpTestingController {
  configure();
  TestBed.overrideProvider(Outbox, { useValue: outbox });
  TestBed.overrideProvider(OPEN_PDF, { useValue: open });
  const http = TestBed.inject(HttpTestingController);
  TestBed.inject(Session).signIn('a', 'b').subscribe();
  http.expectOne('/api/sign-in').flush(ME);
  return http;
}
/** Bytes as the page's own kind of buffer. */
const bytesOf = (text: string): ArrayBuffer => {
  const bytes = new ArrayBuffer(text.length);
  new Uint8Array(bytes).set([...text].map((c) => c.charCodeAt(0)));
  return bytes;
};
const settled = (): Promise<void> => new Promise((done) => setTimeout(done, 350));

describe('the prints', () => {
  it('are made anew once the wish has settled, and begin with the child from the address', async () => {
    const http = signedIn();
    const fixture = TestBed.createComponent(PrintsPage);
    fixture.componentRef.setInput('what', 'home-sheet');
    fixture.componentRef.setInput('child', 'tamsin');
    TestBed.tick();
    http.expectOne('/api/classes/class').flush(CLASS);
    await settled();
    fixture.componentInstance.fields.patchValue({ ink: 'black' });
    TestBed.tick();
    await settled();
    const asked = http.match('/api/classes/class/prints').filter((r) => !r.cancelled);
    expect(asked.map((r) => r.request.body as unknown)).toEqual([
      expect.objectContaining({ what: 'home-sheet', child: 'tamsin', ink: 'black' }),
    ]);
    asked[0]?.flush(new ArrayBuffer(8));
    await fixture.whenStable();
    await settled();
    expect(text(fixture)).toContain('14 pages; the first 12 are shown.');
  });

  it('say so where the pages cannot be drawn', async () => {
    const http = signedIn({}, () => Promise.reject(new Error('no worker')));
    const fixture = TestBed.createComponent(PrintsPage);
    TestBed.tick();
    http.expectOne('/api/classes/class').flush(CLASS);
    await settled();
    http.match('/api/classes/class/prints').forEach((asked) => {
      if (!asked.cancelled) asked.flush(new ArrayBuffer(8));
    });
    await fixture.whenStable();
    expect(text(fixture)).toContain('The pages could not be drawn here.');
  });

  it('say in words why there is nothing', async () => {
    const http = signedIn();
    const fixture = TestBed.createComponent(PrintsPage);
    TestBed.tick();
    http.expectOne('/api/classes/class').flush(CLASS);
    await settled();
    const problem = { type: 'x', title: 'There is nothing to print', status: 422, code: 'nothing-to-print' };
    http.expectOne('/api/classes/class/prints').flush(bytesOf(JSON.stringify(problem)), {
      status: 422,
      statusText: 'no',
      headers: { 'content-type': 'application/problem+json' },
    });
    await fixture.whenStable();
    expect(text(fixture)).toContain('There is nothing to print');
  });
});

const SHEET: GroupSheetView = {
  code: 'QRST23',
  children: ['oriel', 'tamsin'],
  facts: ['3+4', 'show:7:frame-fives'],
  session: null,
  madeAt: '2026-11-20T10:00:00Z',
  keyedAt: null,
  linkUntil: null,
};

describe('group sheets', () => {
  it('begin with what is proposed for those chosen, and take other facts in, but nothing else', async () => {
    const http = signedIn();
    const fixture = TestBed.createComponent(GroupSheets);
    fixture.componentRef.setInput('children', CHILDREN);
    fixture.componentRef.setInput('invited', ['oriel', 'somebody else']);
    TestBed.tick();
    http
      .expectOne('/api/classes/class/readings')
      .flush({ judgedAt: null, modelVersion: 'x', judging: 'done', readings: [], asked: [] });
    http.expectOne('/api/classes/class/group-sheets').flush([{ ...SHEET, children: ['tamsin'], facts: ['3+4'] }]);
    await fixture.whenStable();
    expect(text(fixture)).toContain('Tamsin, 20 Nov, not entered yet');
    const loader = TestbedHarnessEnvironment.loader(fixture);
    const grid = await loader.getHarness(MatChipGridHarness);
    const proposed = (await grid.getRows()).length;
    expect(proposed).toBeGreaterThan(0);
    const input = await grid.getInput();
    await input?.setValue('3+14');
    await input?.sendSeparatorKey(TestKey.ENTER);
    expect(text(fixture)).toContain('“3+14” is not a fact within ten.');
    await input?.setValue('9 − 7');
    await input?.sendSeparatorKey(TestKey.ENTER);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Make the sheet' }))).click();
    const wish = http.expectOne({ method: 'POST', url: '/api/classes/class/group-sheets' }).request.body as {
      children: string[];
      facts: string[];
    };
    expect(wish.children).toEqual(['oriel']);
    expect([wish.facts.length, wish.facts.at(-1)]).toEqual([proposed + 1, '9-7']);
    // What was chosen stays while the record loads again, and goes with another class.
    const { chosen } = fixture.componentInstance;
    chosen.setValue(['tamsin']);
    chosen.markAsDirty();
    for (const [children, left] of [
      [[...CHILDREN], ['tamsin']],
      [CHILDREN.slice(0, 1), ['oriel']],
    ] as const) {
      fixture.componentRef.setInput('children', children);
      TestBed.tick();
      expect(chosen.value).toEqual(left);
    }
  });
});

describe('keying in', () => {
  const sheet = SHEET;

  it('makes rows of what was written, without times, and nothing of empty places', () => {
    const cells = new Map([
      [cellName('oriel', 0), '7C'],
      [cellName('oriel', 1), ' '],
      [cellName('tamsin', 0), '10'],
    ]);
    const { sitting, rows } = rowsOfSheet({ ...sheet, cells, askedAt: Date.UTC(2026, 10, 20, 12) });
    expect(rows.map((r) => [r.child, r.fact, r.given, r.outcome, r.observed, r.response_ms, r.shown_at])).toEqual([
      ['oriel', '3+4', '7', 'correct', 'counted', null, '2026-11-20T12:00:00.000Z'],
      ['tamsin', '3+4', '10', 'wrong', '', null, '2026-11-20T12:00:00.000Z'],
    ]);
    for (const row of rows) expect(recordRow.safeParse(row).success).toBe(true);
    expect(sitting).toMatchObject({ id: 'sheet-QRST23', routine: 'group-sheet' });
    expect(['7', '7c', '', '10 c', '11', 'c', '7x'].map(cellProblem)).toEqual([
      false,
      false,
      false,
      false,
      true,
      true,
      true,
    ]);
  });

  it('of a planned session takes of each child its own questions alone, with the help they came with', () => {
    const session: GroupSheetView['session'] = {
      needs: [{ need: 'pairs', whole: 7 }],
      opener: null,
      minutes: 4,
      asked: {
        oriel: [
          { fact: '3+4', form: 'picture' },
          { fact: '3+4', form: 'symbols' },
        ],
        tamsin: [{ fact: 'show:7:frame-fives', form: 'symbols' }],
      },
    };
    const everywhere = sheet.children.flatMap((child) => [0, 1].map((place) => [cellName(child, place), '7'] as const));
    const { rows } = rowsOfSheet({
      ...sheet,
      session,
      cells: new Map(everywhere),
      askedAt: Date.UTC(2026, 10, 20, 12),
    });
    expect(rows.map(({ child, fact, aid }) => [child, fact, aid])).toEqual([
      ['oriel', '3+4', 'picture'],
      ['oriel', '3+4', 'none'],
      ['tamsin', 'show:7:frame-fives', 'none'],
    ]);
  });

  it('keeps them on the device, and says that the sheet is done', async () => {
    const kept: unknown[] = [];
    const keep = (_: string, row: unknown): Promise<void> => Promise.resolve(void kept.push(row));
    const http = signedIn({ keepSitting: keep, keepOpen: keep, closeAll: () => Promise.resolve() });
    const fixture = TestBed.createComponent(KeyInPage);
    fixture.componentRef.setInput('code', 'QRST23');
    TestBed.tick();
    http.expectOne('/api/classes/class').flush(CLASS);
    http.expectOne('/api/classes/class/group-sheets').flush([sheet]);
    await fixture.whenStable();
    const inputs = [...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLInputElement>('td input')];
    expect(inputs.map((i) => i.getAttribute('aria-label'))).toEqual([
      'Oriel, 3 + 4',
      'Tamsin, 3 + 4',
      'Oriel, 7 on a frame by fives',
      'Tamsin, 7 on a frame by fives',
    ]);
    inputs[0]!.value = '8';
    inputs[0]!.dispatchEvent(new Event('input'));
    inputs[0]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await fixture.whenStable();
    await (
      await TestbedHarnessEnvironment.loader(fixture).getHarness(MatButtonHarness.with({ text: 'Save one answer' }))
    ).click();
    await fixture.whenStable();
    http.expectOne({ method: 'PUT', url: '/api/classes/class/group-sheets/QRST23/keyed' }).flush(null);
    expect(kept).toHaveLength(2);
  });
});
