import { HttpEventType } from '@angular/common/http';
import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { ImportResult } from '@vane/contract';
import { Session } from '../signedIn/session';
import { configure, ME, text } from '../testing/page';
import { FilesPage } from './files.page';

const LOOK: ImportResult = {
  read: 3,
  fresh: 1,
  same: 1,
  changed: 0,
  refused: 1,
  lines: [
    { line: 4, state: 'refused', reason: 'child: there is no “Nobody” in this class.', content: 'a, Nobody, s1' },
  ],
  names: [],
  dates: null,
  misspelt: [],
  imported: null,
};

function page(role: 'lead' | 'teacher'): { http: HttpTestingController; fixture: ComponentFixture<FilesPage> } {
  configure();
  const http = TestBed.inject(HttpTestingController);
  TestBed.inject(Session).signIn('a', 'b').subscribe();
  http.expectOne('/api/sign-in').flush({ ...ME, adult: { ...ME.adult, role } });
  const fixture = TestBed.createComponent(FilesPage);
  TestBed.tick();
  return { http, fixture };
}
/** What was answered reaches the page: requests that are still open keep it from being stable. */
const turn = async (): Promise<void> => {
  await Promise.resolve();
  TestBed.tick();
};
const press = (fixture: ComponentFixture<FilesPage>, words: string): void => {
  const button = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')].find(
    (one) => one.textContent.trim() === words,
  );
  if (!button) throw new Error(`there is no "${words}"`);
  button.click();
  TestBed.tick();
};
async function looked(): Promise<ReturnType<typeof page>> {
  const made = page('teacher');
  made.http.expectOne('/api/classes/class/imports').flush([]);
  made.fixture.componentInstance.open(made.fixture.componentInstance.ways()[0]!, new Blob(['x']), 'year.csv');
  await made.fixture.whenStable();
  return made;
}

describe('files in and out', () => {
  it('offers a teacher its class alone, and a lead the school as well', async () => {
    const { http, fixture } = page('teacher');
    http.expectOne('/api/classes/class/imports').flush([]);
    await fixture.whenStable();
    expect(text(fixture)).toContain('Responses (CSV)');
    expect(text(fixture)).not.toMatch(/roster/i);
    TestBed.resetTestingModule();
    const lead = page('lead');
    lead.http.expectOne('/api/classes/class/imports').flush([]);
    lead.http
      .expectOne('/api/school/imports')
      .flush([{ id: 'i1', what: 'a roster', added: 4, by: 'Mate', madeAt: new Date().toISOString() }]);
    await lead.fixture.whenStable();
    expect(text(lead.fixture)).toContain('4 new from a roster, Mate');
    expect(text(lead.fixture)).toContain('From the roster service');
  });

  it('looks first, tells line by line, and takes in only when told', async () => {
    const { http, fixture } = await looked();
    const look = http.expectOne('/api/classes/class/import?write=no');
    look.event({ type: HttpEventType.UploadProgress, loaded: 30, total: 100 });
    await turn();
    expect(
      (fixture.nativeElement as HTMLElement).querySelector('mat-progress-bar')?.getAttribute('aria-valuenow'),
    ).toBe('30');
    look.flush(LOOK);
    await turn();
    expect(text(fixture)).toContain('line 4, refused: child: there is no “Nobody” in this class.a, Nobody, s1');
    press(fixture, 'Import');
    http.expectOne('/api/classes/class/import?write=yes').flush({
      ...LOOK,
      imported: { id: 'i9', what: 'responses', added: 1, by: 'Mate', madeAt: new Date().toISOString() },
    });
    http.expectOne('/api/me').flush({ ...ME, adult: { ...ME.adult, role: 'teacher' } });
    TestBed.tick();
    // The list of imports has not been read anew yet.
    expect(text(fixture)).toContain('Imported: 1 new.');
    press(fixture, 'Undo import');
    http
      .expectOne({ method: 'DELETE', url: '/api/classes/class/imports/i9' })
      .flush({ responses: 1, left: ['Odo', 'Ivo'] });
    TestBed.tick();
    expect(text(fixture)).toContain('Import undone: 1 of responses. Left as they are');
    expect(text(fixture)).toContain('Odo and Ivo');
  });

  it('asks for the order of dates before it imports, offers the child that a name means, and looks again', async () => {
    const { http, fixture } = await looked();
    const dates = { order: 'day-first', example: '1/12/2026', read: '2026-12-01T12:00:00Z', unsure: true } as const;
    const misspelt = [{ name: 'Wilffa', meant: 'Wilfa' }];
    http.expectOne('/api/classes/class/import?write=no').flush({ ...LOOK, dates, misspelt });
    await turn();
    expect(text(fixture)).toMatch(/1\/12\/2026 is read as Tuesday,? 1 December 2026/);
    press(fixture, 'Import');
    http.expectNone((asked) => asked.params.get('write') === 'yes');
    (fixture.nativeElement as HTMLElement).querySelector<HTMLInputElement>('input[value="month-first"]')?.click();
    await turn();
    http
      .expectOne('/api/classes/class/import?write=no&order=month-first')
      .flush({ ...LOOK, dates: { ...dates, order: 'month-first', unsure: false }, misspelt });
    await turn();
    expect(text(fixture)).toContain('Wilffa: do you mean Wilfa?');
    press(fixture, 'Yes, Wilfa');
    const said = 'order=month-first&names=%7B%22Wilffa%22:%22Wilfa%22%7D';
    http.expectOne(`/api/classes/class/import?write=no&${said}`).flush({ ...LOOK, dates: { ...dates, unsure: false } });
    await turn();
    press(fixture, 'Import');
    http.expectOne(`/api/classes/class/import?write=yes&${said}`);
  });

  it('breaks off when told to', async () => {
    const { http, fixture } = await looked();
    const look = http.expectOne('/api/classes/class/import?write=no');
    press(fixture, 'Cancel');
    expect(look.cancelled).toBe(true);
    expect(text(fixture)).not.toContain('year.csv');
  });

  it('says what is wrong with a file, and that nothing was written', async () => {
    const { http, fixture } = await looked();
    const problem = {
      type: 'x',
      title: 'This is not a file of responses',
      status: 422,
      code: 'not-a-responses-file',
      detail: 'line 1: these columns are missing: fact',
    };
    http.expectOne('/api/classes/class/import?write=no').flush(problem, { status: 422, statusText: 'no' });
    await turn();
    expect(text(fixture)).toMatch(/year\.csv.*columns are missing: fact.*Nothing was imported/);
  });
});
