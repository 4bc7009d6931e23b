import { HttpTestingController } from '@angular/common/http/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { type ChildWeek, type ClassReadings, type ClassView } from '@vane/contract';
import { factsWithinTen, type HowMeasured, type Reading } from '@vane/core';
import { CHARTS } from '../charts/chart';
import { firstValueFrom } from 'rxjs';
import { Session } from '../signedIn/session';
import { CLASS, configure, ME, text } from '../testing/page';
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

async function open(
  view: Partial<ClassView>,
  readings: readonly Reading[],
  weeks: readonly ChildWeek[] = [],
  measured: readonly HowMeasured[] = [],
  pending = 0,
) {
  configure();
  TestBed.overrideProvider(CHARTS, { useValue: () => Promise.resolve(NoChart) });
  const server = TestBed.inject(HttpTestingController);
  const signedIn = firstValueFrom(TestBed.inject(Session).known());
  server.expectOne('/api/me').flush(ME);
  await signedIn;
  const fixture = TestBed.createComponent(ClassPage);
  fixture.detectChanges();
  const answer: ClassReadings = { judgedAt: null, modelVersion: '', judging: 'done', readings, asked: [] };
  server.expectOne('/api/classes/class').flush({ ...CLASS, ...view });
  server.expectOne('/api/classes/class/readings').flush(answer);
  // Past weeks are asked for once the picture stands.
  server.expectNone('/api/classes/class/over-time');
  await Promise.resolve();
  fixture.detectChanges();
  for (const asked of server.match('/api/classes/class/over-time')) asked.flush({ weeks, pending });
  for (const asked of server.match(({ url }) => url.startsWith('/api/classes/class/measuring/'))) asked.flush(measured);
  await fixture.whenStable();
  const at = (selector: string): string[] =>
    [...(fixture.nativeElement as HTMLElement).querySelectorAll(selector)].map(
      (e) => e.getAttribute('aria-label') ?? e.textContent.trim(),
    );
  return { fixture, at, loader: TestbedHarnessEnvironment.loader(fixture) };
}

describe('the class', () => {
  it('names every child’s place, need and way for those who hear the page', async () => {
    const { at } = await open({}, [...upTo('oriel', 6), ...upTo('tamsin', 10)]);
    expect(at('.child')).toEqual([
      expect.stringMatching(/^Tamsin, going on past ten/),
      expect.stringMatching(/^Oriel, working on seven, picture in view/),
    ]);
    expect(at('.pool').join()).toContain('one child');
    // Nothing is known yet of how anybody measures.
    expect(at('vane-measuring section')).toEqual([]);
  });

  it('says to whoever is signed in how they and this device measure', async () => {
    const known: HowMeasured[] = [
      { what: 'late', by: 'adult', mode: 'spoken', ms: 340, copies: 24 },
      { what: 'late', by: 'device', mode: 'tap', ms: -120, copies: 31 },
      { what: 'signs', signs: 30, trust: 0.87 },
      { what: 'slips', copies: 40, slips: 0.014 },
    ];
    const { at } = await open({}, upTo('oriel', 6), [], known);
    expect(at('vane-measuring li')).toEqual([
      'Spoken answers come about 0.3 s later when you stop the clock than when others do, by 24 numbers that children only had to copy or repeat. Vane allows for that.',
      'Taps come about 0.1 s sooner on this device than on others, by 31 numbers that children only had to copy or repeat. Vane allows for that.',
      'You marked 30 signs of how a child came to an answer. About nine in ten fit the times, and Vane gives your signs that much weight.',
      'About one in a hundred numbers that you enter is probably not what the child said, by 40 numbers that children only had to repeat. Vane allows for that.',
    ]);
  });

  it('says who shares a need, and why the plan has it, once a child is chosen', async () => {
    const { fixture } = await open({}, upTo('oriel', 4));
    (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('.child')?.click();
    await fixture.whenStable();
    const side = (fixture.nativeElement as HTMLElement).querySelector('vane-class-side')?.textContent ?? '';
    expect(side).toContain('Oriel');
    expect(side).toContain('Nobody else needs exactly this.');
  });

  it('says nothing that stands on past weeks while those are still being judged', async () => {
    const side = async (pending: number): Promise<string> => {
      const { fixture } = await open({}, upTo('oriel', 4), [], [], pending);
      return (fixture.nativeElement as HTMLElement).querySelector('vane-class-side')?.textContent ?? '';
    };
    const claims = /Nobody\.|Everybody has enough|Nothing from that far back/g;
    const before = await side(12);
    expect(before.match(claims)).toBeNull();
    expect(before.match(/Ready in a moment/g)).toHaveLength(3);
    TestBed.resetTestingModule();
    const after = await side(0);
    expect(after.match(claims)?.length).toBeGreaterThan(1);
    expect(after).not.toContain('Ready in a moment');
  });

  it('hides all names at once, in the picture and in the lists, and shows them again', async () => {
    const { fixture } = await open({}, upTo('oriel', 4));
    expect(text(fixture)).toContain('Oriel');
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'n', bubbles: true }));
    await fixture.whenStable();
    expect(text(fixture)).not.toMatch(/Oriel|Tamsin/);
    expect((fixture.nativeElement as HTMLElement).innerHTML).not.toMatch(/Oriel|Tamsin/);
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'n', bubbles: true }));
    await fixture.whenStable();
    expect(text(fixture)).toContain('Oriel');
  });

  it('compares with the day that was chosen, and tells a new version of the judgement apart', async () => {
    const week = (monday: string, workingNumber: number, older: ChildWeek['older'] = null): ChildWeek => ({
      child: 'oriel',
      week: monday,
      words: { '1+1': 'knows' },
      workingNumber,
      help: 'picture',
      older,
    });
    const older = { modelVersion: 'field-0', workingNumber: 4, words: {} };
    const { fixture } = await open({}, upTo('oriel', 6), [week('2020-11-02', 6), week('2020-11-09', 5, older)]);
    expect(text(fixture)).toContain('On to a larger number: Oriel.');
    expect(text(fixture)).toContain('Vane was updated since then (before: field-0), so the number of Oriel may differ');
  });

  it('says so when there is nobody in the class', async () => {
    const { fixture } = await open({ children: [] }, []);
    expect(text(fixture)).toContain('There are no children in this class yet.');
  });
});
