import type { HarnessLoader } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { DEFAULT_CARPET, type CarpetSettings } from '@vane/contract';
import { CHILDREN, configure, text } from '../../testing/page';
import { CarpetChoice } from './carpetChoice';
import type { Chosen } from '../sitting/sittingWish';

/** The list of this name. */
async function listOf(loader: HarnessLoader, label: string): Promise<MatSelectHarness> {
  for (const field of await loader.getAllHarnesses(MatFormFieldHarness))
    if ((await field.getLabel()) === label) return (await field.getControl(MatSelectHarness))!;
  throw new Error(`there is no list "${label}"`);
}

describe('the choice before a sitting', () => {
  afterEach(() => localStorage.clear());
  it('begins with what was chosen', async () => {
    configure();
    const fixture = TestBed.createComponent(CarpetChoice);
    fixture.componentRef.setInput('children', CHILDREN);
    fixture.componentRef.setInput('settings', DEFAULT_CARPET);
    fixture.componentRef.setInput('childId', 'tamsin');
    const begun: Chosen[] = [];
    fixture.componentInstance.begin.subscribe((chosen) => begun.push(chosen));
    const loader = TestbedHarnessEnvironment.loader(fixture);
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'none' }))).check();
    await (await listOf(loader, 'Answers')).clickOptions({ text: 'says it, you enter it' });
    await (await listOf(loader, 'Layout')).clickOptions({ text: 'five frame' });
    await (await listOf(loader, 'Show for')).clickOptions({ text: 'until answered' });
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Begin with Tamsin' }))).click();
    expect(begun).toMatchObject([
      {
        children: [CHILDREN[1]],
        settings: { ...DEFAULT_CARPET, layout: 'five', answerMode: 'spoken', exposureMs: null },
      },
    ]);
    expect(begun[0]?.warmUpOf(CHILDREN[1]!)).toBe('none');
  });

  it('remembers on this device how each routine was set up, and counts cards as is usual for it', async () => {
    const { fixture, begin } = await choose('flash-and-say');
    const page = fixture.componentInstance;
    const now = () => (({ screens, readyMs, numbers, shows }) => ({ screens, readyMs, numbers, shows }))(page.form());
    const usual = { screens: 'one', readyMs: 1000, numbers: 'same', shows: 10 };
    page.choose('ten-card');
    expect(now()).toEqual({ ...usual, shows: 2 });
    page.fields.patchValue({ screens: 'two', readyMs: null, numbers: 'own', shows: 4 });
    await begin(/^Begin with/);
    page.choose('flash-and-say');
    expect(now()).toEqual(usual);
    page.choose('ten-card');
    expect(now()).toEqual({ screens: 'two', readyMs: null, numbers: 'own', shows: 4 });
    // The class's own settings come first where the device knows nothing better.
    TestBed.resetTestingModule();
    const again = await choose('ten-card', { screens: 'one', layout: 'five' });
    expect(again.fixture.componentInstance.form()).toMatchObject({ screens: 'two', shows: 4, layout: 'five' });
  });

  it('says so when there is nobody to ask', () => {
    configure();
    const fixture = TestBed.createComponent(CarpetChoice);
    fixture.componentRef.setInput('children', []);
    fixture.componentRef.setInput('settings', null);
    fixture.detectChanges();
    expect(text(fixture)).toContain('There are no children in this class yet.');
  });

  const choose = async (
    routine: string,
    change: Partial<CarpetSettings> = {},
    planned: readonly string[] | null = null,
  ) => {
    configure();
    const fixture = TestBed.createComponent(CarpetChoice);
    fixture.componentRef.setInput('children', CHILDREN);
    fixture.componentRef.setInput('settings', { ...DEFAULT_CARPET, routine, ...change });
    if (planned !== null) {
      fixture.componentRef.setInput('others', planned);
      fixture.componentRef.setInput('planned', [{ need: 'pairs', whole: 6 }]);
    }
    const begun: Chosen[] = [];
    fixture.componentInstance.begin.subscribe((chosen) => begun.push(chosen));
    const loader = TestbedHarnessEnvironment.loader(fixture);
    await fixture.whenStable();
    const list = (label: string) => listOf(loader, label);
    const begin = async (who: RegExp) => (await loader.getHarness(MatButtonHarness.with({ text: who }))).click();
    return { fixture, loader, begun, list, begin };
  };

  it('shows the options of the routine alone, each with its reason and the usual value marked', async () => {
    const { fixture, list, begun, begin } = await choose('all-the-ways');
    expect(text(fixture)).toContain('that is the set of facts that is judged');
    expect(text(fixture)).not.toContain('Start box');
    const rule = await list('Ways counted');
    await rule.open();
    expect(await Promise.all((await rule.getOptions()).map((o) => o.getText()))).toEqual([
      'turned pairs separately, with zero (usual)',
      'turned pairs separately, without zero',
      'turned pairs as one, with zero',
      'turned pairs as one, without zero',
    ]);
    await rule.clickOptions({ text: 'turned pairs as one, without zero' });
    await begin(/^Begin with/);
    expect(begun[0]?.settings.options).toMatchObject({ rule: 'plain', ways: 'free' });
  });

  it('warns of small things as soon as objects are chosen, and of flashes where something is flashed', async () => {
    const { fixture, list } = await choose('sums');
    expect(text(fixture)).not.toMatch(/choke|photosensitive/);
    await (await list('With')).clickOptions({ text: 'objects in hand' });
    expect(text(fixture)).toMatch(/choke/);
    TestBed.resetTestingModule();
    const flashed = await choose('to-five');
    expect(text(flashed.fixture)).toMatch(/photosensitive/);
  });

  it('with the whole class asks nothing about one child, and says that nothing counts', async () => {
    const { fixture, loader, begun, begin } = await choose('sums');
    await (await loader.getHarness(MatButtonToggleHarness.with({ text: 'all together' }))).check();
    expect(text(fixture)).toContain('you cannot tell who knows, so none of it is judged');
    expect(text(fixture)).not.toContain('Warm-up');
    await begin(/Begin with the whole class/);
    expect(begun[0]?.choral).toBe(true);
  });

  it('has no warm-up where nothing is timed, and one as needed elsewhere', async () => {
    const { fixture, begun, begin } = await choose('learn-frame');
    expect(text(fixture)).not.toContain('Warm-up');
    await begin(/^Begin with/);
    expect(begun[0]?.warmUpOf(CHILDREN[0]!)).toBe('none');
  });

  it('leaves what was chosen alone when the record is loaded again, and begins anew with another class', async () => {
    const { fixture, list, begun, begin } = await choose('sums');
    await (await list('Child')).clickOptions({ text: 'Tamsin' });
    await (await list('Answers')).clickOptions({ text: 'says it, you enter it' });
    const loadedAgain = { ...DEFAULT_CARPET, routine: 'to-five' };
    fixture.componentRef.setInput('settings', loadedAgain);
    fixture.componentRef.setInput('children', [...CHILDREN]);
    await fixture.whenStable();
    await begin(/^Begin with Tamsin/);
    fixture.componentRef.setInput('className', 'Dunlin');
    await fixture.whenStable();
    await begin(/^Begin with Oriel/);
    expect(begun.map(({ settings }) => [settings.routine, settings.answerMode])).toEqual([
      ['sums', 'spoken'],
      ['to-five', 'tap'],
    ]);
  });

  it('keeps the smallest whole below the largest', async () => {
    const { list, begun, begin } = await choose('sums', { wholeFrom: 3, wholeTo: 5 });
    await (await list('Totals from')).clickOptions({ text: '8' });
    await begin(/^Begin with/);
    expect(begun[0]?.settings).toMatchObject({ wholeFrom: 8, wholeTo: 8 });
  });

  it('offers the plan only when there is one, with those who sit by it', async () => {
    const names = async (planned: readonly string[] | null) => {
      TestBed.resetTestingModule();
      const { fixture } = await choose(planned ? 'planned' : 'sums', {}, planned);
      const tiles = [...(fixture.nativeElement as HTMLElement).querySelectorAll('vane-shelf .name')];
      return [
        text(fixture).includes('Begin with Oriel and Tamsin'),
        tiles.filter((tile) => tile.textContent.trim() === 'As planned').length,
      ];
    };
    expect(await names(null)).toEqual([false, 0]);
    expect(await names(['oriel', 'tamsin'])).toEqual([true, 1]);
  });

  const tiles = (fixture: { nativeElement: unknown }): string[] =>
    [...(fixture.nativeElement as HTMLElement).querySelectorAll('vane-shelf section')].map((section) =>
      [
        section.getAttribute('aria-label'),
        ...[...section.querySelectorAll('.name')].map((n) => n.textContent.trim()),
      ].join(': '),
    );

  it('is a shelf: those in use first, each with its picture, found by typing, chosen by a press', async () => {
    const { fixture, loader, begun, begin } = await choose('sums');
    fixture.componentRef.setInput('used', ['hides-ten', 'gone-by-now', 'doubles']);
    await fixture.whenStable();
    expect(tiles(fixture)[0]).toBe('Used this month: Which hides a ten?: Doubles');
    const pictures = (fixture.nativeElement as HTMLElement).querySelectorAll('vane-shelf vane-shelf-picture svg');
    expect(pictures).toHaveLength(2 + 37);
    const find = await loader.getHarness(MatInputHarness);
    await find.setValue('domino');
    expect(tiles(fixture)).toEqual(['Pairs: The domino turns']);
    await find.setValue('remembered dice');
    expect(text(fixture)).toContain('No routine matches.');
    await find.setValue('domino');
    (fixture.nativeElement as HTMLElement).querySelector<HTMLElement>('vane-shelf li button')!.click();
    await fixture.whenStable();
    expect(text(fixture)).toContain('read half by half');
    await begin(/^Begin with/);
    expect(begun[0]?.settings.routine).toBe('dominoes');
  });

  it('says whether it is judged, and what is not as usual, without being opened', async () => {
    const { fixture } = await choose('sums');
    expect(text(fixture)).toMatch(/Symbols\. Answers without help.*all as usual/);
    fixture.componentRef.setInput('settings', {
      ...DEFAULT_CARPET,
      routine: 'sums',
      options: { ...DEFAULT_CARPET.options, help: 'picture', gap: 'anywhere' },
      readyMs: null,
      zeroToo: true,
      numbers: 'own',
    });
    await fixture.whenStable();
    expect(text(fixture)).toMatch(
      /Picture in view\. Practice: recorded, and not judged\..*not as usual: ready by hand, each child’s own number, a picture in view and zero included/,
    );
  });
});
