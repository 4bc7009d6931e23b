import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { provideHttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatProgressBarHarness } from '@angular/material/progress-bar/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { provideRouter } from '@angular/router';
import { DEFAULT_READING_SETTINGS, judgeClass, simulateClass } from '@vane/core';
import { Subject } from 'rxjs';
import { CHARTS } from '../charts/chart';
import { FRAMES } from '../carpet/measurement/frameSource';
import { PlayedFrames } from '../testing/playedFrames';
import { MarkingPage } from './marking.page';
import { REHEARSE, type RehearsalNews, type RehearsalWish } from './rehearsal';
import { RehearsePage } from './rehearse.page';

/** The library draws with what jsdom does not have. */
class NoCharts {
  render(): Promise<void> {
    return Promise.resolve();
  }
  destroy(): void {
    // Nothing was drawn.
  }
}

describe('rehearsing', () => {
  const setUp = () => {
    const wishes: RehearsalWish[] = [];
    const news = new Subject<RehearsalNews>();
    let cancelled = 0;
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        { provide: CHARTS, useValue: () => Promise.resolve(NoCharts) },
        provideRouter([{ path: 'rehearse/marking', children: [] }]),
        {
          provide: REHEARSE,
          useValue: (wish: RehearsalWish) => {
            wishes.push(wish);
            return {
              subscribe: (observer: object) => {
                const inner = news.subscribe(observer);
                return {
                  unsubscribe: () => {
                    cancelled++;
                    inner.unsubscribe();
                  },
                };
              },
            };
          },
        },
      ],
    });
    const fixture = TestBed.createComponent(RehearsePage);
    const text = () => (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ');
    return {
      fixture,
      loader: TestbedHarnessEnvironment.loader(fixture),
      wishes,
      news,
      text,
      cancelled: () => cancelled,
    };
  };

  it('runs the class that was chosen, tells how far it is, and sets truth against reading', async () => {
    const { fixture, loader, wishes, news, text } = setUp();
    const [children, weeks, kind] = await loader.getAllHarnesses(MatSelectHarness);
    await children?.clickOptions({ text: '6' });
    await weeks?.clickOptions({ text: '2' });
    await kind?.clickOptions({ text: /holiday/ });
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Run the class' }))).click();
    expect(wishes).toMatchObject([{ weeks: 2, condition: 'holiday', seed: 1 }]);
    expect(wishes[0]?.names).toHaveLength(6);
    news.next({ what: 'progress', done: 2, of: 8, doing: { step: 'judge', name: 'Oriel' } });
    expect(await (await loader.getHarness(MatProgressBarHarness)).getValue()).toBe(25);
    expect(text()).toContain('Judging Oriel …');

    let made = 0;
    const { responses, truth } = simulateClass({
      seed: 1,
      names: ['Oriel', 'Ivo'],
      weeks: 2,
      until: Date.UTC(2026, 5, 10),
      makeId: () => `r${made++}`,
    });
    news.next({
      what: 'done',
      responses,
      judgements: judgeClass(responses, { settings: DEFAULT_READING_SETTINGS }),
      truth,
    });
    news.complete();
    await fixture.whenStable();
    expect(text()).toMatch(new RegExp(`${truth.length} facts were asked; \\d+ of them are actually known`));
    expect(await loader.getAllHarnesses(MatProgressBarHarness)).toHaveLength(0);
    const child = [...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLButtonElement>('.pebble')].find(
      (b) => b.textContent.trim() === 'Ivo',
    );
    child?.click();
    await fixture.whenStable();
    (fixture.nativeElement as HTMLElement).querySelector<HTMLButtonElement>('vane-sail-map [data-at="5-2"]')?.click();
    await fixture.whenStable();
    expect(text()).toMatch(/Actually Ivo remembers this \d+ times in a hundred|This was not asked/);
    expect(text()).not.toContain('I see it differently');
  });

  it('can be cancelled, and says so when it fails', async () => {
    const { loader, news, text, cancelled, fixture } = setUp();
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Run the class' }))).click();
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Cancel' }))).click();
    expect(cancelled()).toBe(1);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Run the class' }))).click();
    news.error(new Error('no memory'));
    await fixture.whenStable();
    expect(text()).toContain('The rehearsal stopped: no memory.');
  });
});

describe('practising to mark', () => {
  it('lets the child speak after its own time, and compares clock, number and sign with the truth', async () => {
    const frames = new PlayedFrames();
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(),
        provideRouter([]),
        { provide: FRAMES, useValue: frames },
      ],
    });
    const fixture = TestBed.createComponent(MarkingPage);
    const page = fixture.nativeElement as HTMLElement;
    document.body.append(page);
    await fixture.whenStable();
    const sitting = fixture.componentInstance.sitting();
    const phase = () => page.querySelector<HTMLElement>('[data-testid=stage]')?.dataset['phase'];
    const says = () => page.querySelector('.bubble')?.textContent ?? '';
    sitting.goOn(frames.now());
    const shown = frames.until(() => phase() === 'show');
    for (let i = 0; i < 300 && says() === ''; i++) await new Promise((done) => setTimeout(done, 50));
    const given = /“(\d+)!”/.exec(says())?.[1] ?? '';
    expect(given).not.toBe('');
    sitting.goOn(shown + 5000);
    sitting.answer(given, shown + 6000);
    sitting.toggleSign('knew');
    sitting.end();
    await fixture.whenStable();
    const text = page.textContent.replace(/\s+/g, ' ');
    expect(text).toContain('How did it go?');
    expect(text).toMatch(/You stopped the clock/);
    expect(page.querySelectorAll('tbody tr')).toHaveLength(1);
    expect(page.querySelector('tbody tr')?.textContent).toMatch(/knew it/);
    page.remove();
  }, 30_000);
});
