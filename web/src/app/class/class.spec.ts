import { HttpTestingController } from '@angular/common/http/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { DEFAULT_CARPET, type ChildWeek, type ClassReadings, type ClassView } from '@vane/contract';
import { factsWithinTen, type Reading } from '@vane/core';
import { CHARTS } from '../charts/chart';
import { Session } from '../signedIn/session';
import { CHILDREN, configure, ME, text } from '../testing/page';
import { ClassPage } from './class.page';

/** Draws nothing: pictures of charts are looked at in a browser. */
class NoChart {
  render(): Promise<void> {
    return Promise.resolve();
  }
  destroy(): void {
    return;
  }
}

const read = (child: string, fact: string, p: number): Reading => ({
  child,
  fact,
  reading: p > 0.5 ? 'knows' : 'counts',
  pAutomatic: p,
  lean: 0,
  certainty: 0.8,
  responses: 4,
  days: 3,
  reason: { code: 'in-between' },
});
const upTo = (child: string, known: number): Reading[] =>
  factsWithinTen('add').map((fact) =>
    read(child, fact, fact.split('+').reduce((sum, n) => sum + Number(n), 0) <= known ? 0.95 : 0.05),
  );

async function open(view: Partial<ClassView>, readings: readonly Reading[], weeks: readonly ChildWeek[] = []) {
  configure();
  TestBed.overrideProvider(CHARTS, { useValue: () => Promise.resolve(NoChart) });
  const server = TestBed.inject(HttpTestingController);
  const signedIn = TestBed.inject(Session).known();
  server.expectOne('/api/me').flush(ME);
  await signedIn;
  const fixture = TestBed.createComponent(ClassPage);
  fixture.detectChanges();
  const answer: ClassReadings = { judgedAt: null, modelVersion: '', readings, asked: [] };
  server
    .expectOne('/api/classes/class')
    .flush({ id: 'class', name: 'Curlew', carpet: DEFAULT_CARPET, children: CHILDREN, ...view });
  server.expectOne('/api/classes/class/readings').flush(answer);
  server.expectOne('/api/classes/class/over-time').flush({ weeks, pending: 0 });
  await fixture.whenStable();
  const rows = () =>
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('tbody tr')].map((row) =>
      [...row.querySelectorAll('th, .number, .pair')].map((cell) => cell.textContent.trim()).join(' '),
    );
  return { fixture, rows, loader: TestbedHarnessEnvironment.loader(fixture) };
}

describe('the class', () => {
  it('shows what each child works at, by name or by what is worked at, with its pairs', async () => {
    const { rows, loader } = await open({}, [...upTo('oriel', 7), ...upTo('tamsin', 4)]);
    expect(rows()[0]).toMatch(/^Oriel 8 1 \+ 7 2 \+ 6 3 \+ 5 4 \+ 4/);
    expect(rows()[1]).toMatch(/^Tamsin 5 1 \+ 4 2 \+ 3/);
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'by need' }))).check();
    expect(rows().map((row) => row.split(' ')[0])).toEqual(['Tamsin', 'Oriel']);
  });

  it('says what is not known yet, and puts those who need the same together with a reason', async () => {
    const { fixture, rows } = await open({}, upTo('oriel', 10));
    expect(rows()).toEqual(['Oriel all pairs to ten', 'Tamsin not known yet']);
    expect(text(fixture)).toContain('A first lookTamsin: not asked yet');
    expect(text(fixture)).toContain('nobody belongs to a group');
    expect(text(fixture)).toContain('No fact is counted by half of the children');
  });

  it('tells whose working number the weeks have moved, by name', async () => {
    const week = (child: string, monday: string, workingNumber: number | null): ChildWeek => ({
      child,
      week: monday,
      words: { '1+1': 'knows' },
      workingNumber,
    });
    const { fixture } = await open({}, upTo('oriel', 7), [
      week('oriel', '2026-11-02', 6),
      week('tamsin', '2026-11-02', 4),
      week('oriel', '2026-11-09', null),
      week('oriel', '2026-11-16', 8),
      week('tamsin', '2026-11-16', 4),
      week('gone', '2026-11-16', 2),
    ]);
    expect(text(fixture)).toContain('Working numbers that changed: Oriel from six to eight.');
  });

  it('says so when there is nobody in the class', async () => {
    const { fixture } = await open({ children: [] }, []);
    expect(text(fixture)).toContain('There are no children in this class yet.');
  });
});
