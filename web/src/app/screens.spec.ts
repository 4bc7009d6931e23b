import { HttpTestingController } from '@angular/common/http/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { Router } from '@angular/router';
import { toRow, type ChildRecord, type OverruleView } from '@vane/contract';
import {
  DEFAULT_READING_SETTINGS,
  evidenceFor,
  judgeClass,
  simulateClass,
  type Reading,
  type StepLines,
  READING_WORDS,
} from '@vane/core';
import { EvidencePanel } from './child/evidencePanel';
import { Needle, needleTip } from './sail/needle';
import { sailRows } from './sail/sail';
import { OverruleForm } from './child/overrule';
import { SailMap } from './sail/sailMap';
import { stepSentence } from './child/stepChart';
import { timeLine } from './child/timeLine';
import { SignInPage } from './gettingIn/signIn.page';
import { pageWords } from './language/pageWords';
import { words } from './language/words';
import { Session } from './signedIn/session';
import { SettingsDrawer } from './shell/settingsDrawer';
import { CHILDREN, configure, ME, text } from './testing/page';

/** A simulated child's record, as the server would send it. */
function demoRecord(): ChildRecord {
  let id = 0;
  const { responses } = simulateClass({
    seed: 3,
    names: ['Oriel'],
    weeks: 3,
    until: Date.parse('2026-11-25T12:00:00Z'),
    makeId: () => `id${id++}`,
  });
  const [judged] = judgeClass(responses, { settings: DEFAULT_READING_SETTINGS });
  if (!judged) throw new Error('nobody was judged');
  return {
    child: CHILDREN[0]!,
    estimate: judged.estimate,
    readings: judged.readings,
    moved: [],
    overrules: [],
    notes: [],
    support: { supports: [], words: '', by: '', madeAt: null },
    door: '',
    sittings: [],
    basis: null,
    responses: responses.map((r) => toRow(r)),
  };
}

/** A fact that is known, and what a test cares about beside that. */
const knownReading = (change: Partial<Reading>): Reading => ({
  child: 'c',
  fact: '3+5',
  reading: 'knows',
  pAutomatic: 0.9,
  lean: 0.8,
  certainty: 0.8,
  responses: 5,
  days: 3,
  reason: { code: 'quick-on-days' },
  ...change,
});

describe('the door', () => {
  it('signs in to the demo, and says why when it may not', async () => {
    configure();
    const fixture = TestBed.createComponent(SignInPage);
    const http = TestBed.inject(HttpTestingController);
    const loader = TestbedHarnessEnvironment.loader(fixture);
    http
      .expectOne('/api/door')
      .flush({ needsSetUp: false, demo: { email: 'keeper@saltmarsh.example', password: 'lanterns-on-the-jetty' } });
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Sign in' }))).click();
    http.expectNone('/api/sign-in');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Use the demo sign-in' }))).click();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.querySelector<HTMLInputElement>('input[type=email]')?.value).toBe('keeper@saltmarsh.example');
    http
      .expectOne('/api/sign-in')
      .flush(
        { type: 'x', title: 'E-mail or password is wrong', status: 401, code: 'wrong-sign-in' },
        { status: 401, statusText: 'no' },
      );
    await fixture.whenStable();
    expect(text(fixture)).toContain('E-mail or password is wrong.');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Sign in' }))).click();
    http.expectOne('/api/sign-in').flush(ME);
    expect(TestBed.inject(Session).openClass()?.name).toBe('Curlew');
    http.verify();
  });

  it.each([true, false])('leads to the set-up when nobody uses Vane yet, and only then: %s', async (needsSetUp) => {
    configure();
    const fixture = TestBed.createComponent(SignInPage);
    TestBed.inject(HttpTestingController).expectOne('/api/door').flush({ needsSetUp, demo: null });
    await fixture.whenStable();
    expect(TestBed.inject(Router).url).toBe(needsSetUp ? '/set-up' : '/');
  });
});

describe('the sail map', () => {
  const record = demoRecord();

  it('has a place for every pair of every whole, and for every number of every layout', () => {
    const adding = sailRows('add', []);
    expect(adding.flatMap((row) => row.places)).toHaveLength(66);
    expect(adding[7]?.places[3]?.fact).toBe('3+4');
    expect(sailRows('missing', [])[8]?.places[3]?.fact).toBe('3+?=8');
    expect(sailRows('subtract', [])[10]?.places.every((p) => p.fact.startsWith('10-'))).toBe(true);
    expect(sailRows('seeing', []).map((row) => row.places.length)).toEqual([6, 11, 11]);
  });

  it('names every needle in words, and moves with the arrow keys', () => {
    configure();
    const fixture = TestBed.createComponent(SailMap);
    fixture.componentRef.setInput('view', 'seeing');
    fixture.componentRef.setInput('readings', record.readings);
    fixture.detectChanges();
    document.body.append(fixture.nativeElement as HTMLElement);
    const places = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
    expect(
      places.every((place) =>
        /: (knows|works out|counts|not yet|too few answers|in between|probably known|ask the child|not asked yet)/.test(
          place.getAttribute('aria-label') ?? '',
        ),
      ),
    ).toBe(true);
    expect(places.filter((place) => place.tabIndex === 0)).toHaveLength(1);
    places[0]?.focus();
    places[0]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }));
    expect(document.activeElement?.getAttribute('aria-label')).toMatch(/^0 on a frame by fives/);
    (fixture.nativeElement as HTMLElement).remove();
  });

  it('draws a word that rests on one answer, or on one day, thin', () => {
    configure();
    const isLight = (change: Partial<Reading>): boolean => {
      const fixture = TestBed.createComponent(Needle);
      fixture.componentRef.setInput('reading', knownReading(change));
      fixture.detectChanges();
      return (fixture.nativeElement as HTMLElement).querySelector('svg.light') !== null;
    };
    expect(isLight({ reading: 'knows', responses: 1, days: 1 })).toBe(true);
    expect(isLight({ reading: 'counts', responses: 3, days: 1 })).toBe(true);
    expect(isLight({ reading: 'knows', responses: 2, days: 2 })).toBe(false);
    // What settles nothing is drawn as that.
    expect(isLight({ reading: 'too few answers', responses: 1, days: 1 })).toBe(false);
  });

  it('draws a needle upward for knowing, downward for counting, longer when surer', () => {
    expect(needleTip(1, 0.5).y).toBeLessThan(16);
    expect(needleTip(-1, 0.5).y).toBeGreaterThan(16);
    expect(needleTip(0, 1).x).toBeGreaterThan(needleTip(0, 0).x);
    configure();
    const fixture = TestBed.createComponent(Needle);
    const marks = READING_WORDS.map((word) => {
      fixture.componentRef.setInput('as', word);
      fixture.detectChanges();
      return (fixture.nativeElement as HTMLElement).querySelector('svg')?.innerHTML ?? '';
    });
    expect(new Set(marks).size).toBe(6);
  });
});

describe('the evidence', () => {
  const record = demoRecord();
  const fact =
    [...record.readings].filter((r) => r.fact.startsWith('show:')).sort((a, b) => b.responses - a.responses)[0]?.fact ??
    '';

  it('says in a sentence what was seen, against the child’s own hand and counting', () => {
    configure();
    const fixture = TestBed.createComponent(EvidencePanel);
    fixture.componentRef.setInput('record', {
      ...record,
      responses: record.responses.map((r) => ({ ...r, response_ms: null })),
    });
    fixture.componentRef.setInput('fact', fact);
    fixture.detectChanges();
    const asked = record.responses.filter((r) => r.fact === fact);
    expect(text(fixture)).toMatch(/answers were right|The one answer was/);
    expect(text(fixture)).toContain('Naming a number takes Oriel');
    expect((fixture.nativeElement as HTMLElement).querySelectorAll('tbody tr')).toHaveLength(asked.length);
  });

  it('draws every timed answer on its day, what counts apart from what does not', () => {
    const rows = record.responses
      .filter((r) => r.fact === fact)
      .map((r, i) => (i === 0 ? { ...r, void: 'spoiled' } : r));
    const options = timeLine(rows, evidenceFor(fact, [], record.estimate, 'UTC'), (name) => name, {
      dayOf: (at) => at.slice(0, 10),
      nameOf: (day) => day,
    });
    const dots = (options.series as { name: string; data: unknown[] }[]).map((s) => [s.name, s.data.length] as const);
    expect(dots.reduce((sum, [, n]) => sum + n, 0)).toBe(rows.filter((r) => r.response_ms !== null).length);
    expect(Object.fromEntries(dots)['left out']).toBeGreaterThanOrEqual(1);
    expect(options.annotations?.xaxis?.map((a) => (a.label as { text: string }).text)).toEqual([
      'time to name a number',
      'time to count it',
    ]);
  });
});

describe('a teacher’s own word', () => {
  const OWN: OverruleView = {
    id: 'o1',
    fact: '3+5',
    reading: 'knows',
    reason: 'told me at lunch',
    by: 'Harbour keeper',
    madeAt: '2026-11-25T09:00:00Z',
  };

  it('wants a reason, is kept beside Vane’s reading, and can be taken back', async () => {
    configure();
    const http = TestBed.inject(HttpTestingController);
    TestBed.inject(Session).signIn('a', 'b').subscribe();
    http.expectOne('/api/sign-in').flush(ME);
    const fixture = TestBed.createComponent(OverruleForm);
    const set = (overrules: readonly OverruleView[]) => fixture.componentRef.setInput('overrules', overrules);
    fixture.componentRef.setInput('childId', 'oriel');
    fixture.componentRef.setInput('fact', '3+5');
    set([]);
    fixture.componentInstance.changed.subscribe(set);
    const loader = TestbedHarnessEnvironment.loader(fixture);
    await (await loader.getHarness(MatButtonHarness.with({ text: /Override/ }))).click();
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Save' }))).click();
    http.expectNone('/api/classes/class/children/oriel/overrules');
    await (await loader.getHarness(MatInputHarness)).setValue('told me at lunch');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Save' }))).click();
    const sent = http.expectOne('/api/classes/class/children/oriel/overrules');
    expect(sent.request.body).toEqual({ fact: '3+5', reading: 'knows', reason: 'told me at lunch' });
    sent.flush([OWN]);
    await fixture.whenStable();
    expect(text(fixture)).toContain('Harbour keeper says: knows. “told me at lunch” 25 Nov 2026.');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Undo override' }))).click();
    http.expectOne({ method: 'DELETE', url: '/api/classes/class/children/oriel/overrules/o1' }).flush([]);
    await fixture.whenStable();
    expect(text(fixture)).toContain('Override Vane’s view');
  });

  it('is drawn on the sail in place of Vane’s, and said aloud as a teacher’s', () => {
    configure();
    const fixture = TestBed.createComponent(SailMap);
    fixture.componentRef.setInput('view', 'add');
    fixture.componentRef.setInput('readings', []);
    fixture.componentRef.setInput('overrules', [OWN]);
    fixture.detectChanges();
    const place = (fixture.nativeElement as HTMLElement).querySelector('button.overruled');
    expect(place?.getAttribute('aria-label')).toBe('3 + 5: not asked yet; a teacher says knows');
  });
});

describe('time against counting, in a sentence', () => {
  const lines = (perStepMs: number): StepLines => ({
    mode: 'tap',
    points: [{ steps: 3, ms: 2000, fact: '3+5' }],
    fitted: { atZeroMs: 1500, perStepMs },
    knownMs: 1500,
    countedMs: Array.from({ length: 11 }, (_, k) => 2000 + 800 * k),
  });
  it.each([
    [50, 'flat'],
    [400, 'In between'],
    [750, 'rises with the counting'],
  ])('%i ms a step', (perStep, words) => expect(stepSentence(lines(perStep), 'Odo')).toContain(words));
  it('says so when there is nothing to draw', () => {
    expect(stepSentence({ ...lines(0), points: [] }, 'Odo')).toContain('no timed correct answers');
    expect(stepSentence({ ...lines(0), fitted: null }, 'Odo')).toContain('too few different amounts');
  });
});

describe('words', () => {
  it('name facts as they are spoken of', () => {
    expect(words.fact('show:7:frame-pairs')).toBe('7 on a frame by pairs');
    expect(words.fact('8-3')).toBe('8 − 3');
    expect(words.fact('3+?=8')).toBe('3 + ? = 8');
  });

  it('say how sure, and what would change it', () => {
    expect(words.readings.sureness(knownReading({}))).toBe('sure');
    expect(words.readings.sureness(knownReading({ certainty: 0.3 }))).toBe('probably');
    expect(words.readings.sureness(knownReading({ responses: 0 }))).toBe('not asked yet');
    // A reading that settles nothing is never said to be sure.
    expect(words.readings.sureness(knownReading({ reading: 'too few answers' }))).toBe('not sure yet');
    expect(words.readings.sureness(knownReading({ reading: 'in between' }))).toBe('fits neither clearly');
    const asked = knownReading({ reading: 'in between', reason: { code: 'ask-the-child' } });
    expect(words.readings.sureness(asked)).toBe('time cannot tell');
    expect(pageWords.evidence.whatWouldChange({ code: 'needs-answers', more: 2 }, '3+4', true)).toContain(
      'Two more answers',
    );
    expect(pageWords.evidence.whatWouldChange({ code: 'needs-answers', more: 1 }, '6+1', false)).toContain(
      'Did you count, or did you just know?',
    );
  });
});

describe('the settings drawer', () => {
  it('keeps the theme on the device, names the cautions, and signs out', async () => {
    configure();
    const fixture = TestBed.createComponent(SettingsDrawer);
    const loader = TestbedHarnessEnvironment.loader(fixture);
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'dark' }))).check();
    expect(document.documentElement.dataset['theme']).toBe('dark');
    expect(localStorage.getItem('vane.theme')).toBe('dark');
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'same as device' }))).check();
    expect(document.documentElement.dataset['theme']).toBeUndefined();
    expect(text(fixture)).toMatch(/flashing, worry, small objects/);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Sign out' }))).click();
    TestBed.inject(HttpTestingController).expectOne('/api/sign-out').flush({});
    expect(TestBed.inject(Session).me()).toBeNull();
  });

  it('says once that it is gone, also where it is shut while it still opens, and nothing after', async () => {
    configure();
    const fixture = TestBed.createComponent(SettingsDrawer);
    let closed = 0;
    fixture.componentInstance.closed.subscribe(() => {
      closed += 1;
      fixture.destroy();
    });
    await fixture.whenStable();
    const drawer = fixture.componentInstance.drawer();
    drawer.openedChange.emit(false);
    drawer.openedChange.emit(false);
    await new Promise((resolve) => setTimeout(resolve));
    expect(closed).toBe(1);
  });
});
