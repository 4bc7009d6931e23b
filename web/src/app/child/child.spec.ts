import { jest } from '@jest/globals';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatDialog } from '@angular/material/dialog';
import { MatInputHarness } from '@angular/material/input/testing';
import { type PairSoFar, type WorkingNumber } from '@vane/core';
import { ask } from '../parts/askDialog';
import { weeksOptions } from '../charts/weeksChart';
import { configure } from '../testing/page';
import { SaidHow } from './saidHow';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';

@Component({ changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class Host {}

const pair = (first: number, second: number, change: Partial<PairSoFar> = {}): PairSoFar => ({
  first,
  second,
  standing: 'counted',
  asked: ['add'],
  ...change,
});
const worksAt = (
  number: number | null,
  pairs: readonly (readonly [number, readonly PairSoFar[]])[],
  allKnown = false,
): WorkingNumber => ({
  number,
  allKnown,
  pairs: new Map(pairs),
});

describe('the working number in words', () => {
  it('says what speaks for it, and what is still to be fixed', () => {
    const found = worksAt(5, [
      [3, [pair(1, 2, { standing: 'known' })]],
      [4, [pair(1, 3, { standing: 'nearly known' }), pair(2, 2, { standing: 'not asked' })]],
      [5, [pair(1, 4, { standing: 'known' }), pair(2, 3)]],
    ]);
    expect(words.plan.workingNumber(found, 'Odo')).toBe(
      'Odo is working on five. Of two smaller pairs asked, one is known and one nearly known. Not secure yet: 2\u00a0+\u00a03.',
    );
  });

  it('says none for nought', () => {
    const found = worksAt(4, [
      [3, [pair(1, 2)]],
      [4, [pair(1, 3)]],
    ]);
    expect(words.plan.workingNumber(found, 'Odo')).toContain('One smaller pair has been asked; it is not known yet.');
  });

  it('says so when nothing was asked, or everything is known', () => {
    expect(words.plan.workingNumber(worksAt(null, []), 'Odo')).toContain('No pair has been asked yet');
    expect(words.plan.workingNumber(worksAt(null, [], true), 'Odo')).toContain('that was asked is known');
    const past = worksAt(null, [[9, [pair(3, 6), pair(4, 5, { standing: 'known' })]]], true);
    expect(words.plan.workingNumber(past, 'Odo')).toBe('Odo is going on past ten. Not known yet: 3\u00a0+\u00a06.');
    expect(words.plan.workingNumber(worksAt(2, [[2, [pair(1, 1)]]]), 'Odo')).toContain(
      'No pair of a smaller number has been asked. Not secure yet: 1\u00a0+\u00a01.',
    );
  });
});

describe('a child over time in words', () => {
  it('counts what stands, and names what lapsed', () => {
    const week = '2026-11-09';
    const became = { fact: '1+1', week, from: null, to: 'knows', lapse: false } as const;
    const lapsed = { fact: '2+3', week, from: 'knows', to: 'counts', lapse: true } as const;
    expect(pageWords.evidence.overTime([became], 3, 'Odo')).toBe('Odo has come to know one fact over three weeks.');
    expect(pageWords.evidence.overTime([lapsed, { ...became, fact: '2+3' }, became], 3, 'Odo')).toContain(
      'one fact over three weeks. Known before and not now: 2 + 3.',
    );
    expect(pageWords.evidence.overTime([], 1, 'Odo')).toBe('Odo has no newly known fact yet over one week.');
  });

  it('draws the share of each reading week by week, and tells the words apart by pattern as well as by colour', () => {
    const counts = { knows: 4, 'works out': 1, 'in between': 2, counts: 3, 'not yet': 0, 'too few answers': 9 };
    const { series, fill, colors } = weeksOptions(
      [{ week: '2026-11-09', counts }],
      200,
      (name) => name,
      (day) => day,
    );
    expect(series).toEqual([
      { name: 'knows', data: [21] },
      { name: 'works out', data: [5] },
      { name: 'in between', data: [11] },
      { name: 'counts', data: [16] },
      { name: 'not yet', data: [0] },
    ]);
    expect(new Set(colors).size).toBe(5);
    expect(
      (fill!.type as string[]).map((type, i) => (type === 'solid' ? type : (fill!.pattern!.style as string[])[i])),
    ).toHaveLength(5);
  });
});

describe('a question to the adult', () => {
  const open = (question: Parameters<typeof ask>[1]) => {
    configure();
    const fixture = TestBed.createComponent(Host);
    const answers: (string | null)[] = [];
    ask(TestBed.inject(MatDialog), question).subscribe((answer) => answers.push(answer));
    return { answers, loader: TestbedHarnessEnvironment.documentRootLoader(fixture) };
  };

  it('goes on only with what has to be written', async () => {
    // Nothing has a size in jsdom, so that the dialog takes its field for hidden and says so.
    const hidden = jest.spyOn(console, 'warn').mockImplementation(() => undefined);
    const { answers, loader } = open({
      title: 'Delete Odo?',
      field: { label: 'Write Odo', value: '', must: 'Odo' },
      act: 'Delete',
    });
    const [input, act] = [
      await loader.getHarness(MatInputHarness),
      await loader.getHarness(MatButtonHarness.with({ text: 'Delete' })),
    ];
    await input.setValue('Od');
    expect(await act.isDisabled()).toBe(true);
    await input.setValue('Odo');
    await act.click();
    expect(answers).toEqual(['Odo']);
    expect(hidden.mock.calls.map(([words]) => words as unknown)).toEqual([expect.stringContaining('cdkFocusInitial')]);
    hidden.mockRestore();
  });

  it('answers nothing when it is left', async () => {
    const { answers, loader } = open({ title: 'Move Odo?', act: 'Move' });
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Cancel' }))).click();
    expect(answers).toEqual([null]);
  });
});

it('how a child says they did it is never an empty page', () => {
  configure();
  const fixture = TestBed.createComponent(SaidHow);
  fixture.componentRef.setInput('responses', []);
  fixture.componentRef.setInput('now', 0);
  TestBed.tick();
  expect((fixture.nativeElement as HTMLElement).textContent).toContain('Not noted yet.');
});
