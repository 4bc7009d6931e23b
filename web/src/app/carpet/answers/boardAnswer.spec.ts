import type { CdkDragDrop } from '@angular/cdk/drag-drop';
import { TestBed } from '@angular/core/testing';
import { USUAL_OPTIONS, type BoardPlan } from '@vane/core';
import { configure } from '../../testing/page';
import { BoardAnswer } from './boardAnswer';
import { CutAnswer } from './cutAnswer';

const ONE: BoardPlan = { layout: 'frame-fives', frames: 1, start: [0], moves: false, byRule: true };
const TWO: BoardPlan = { layout: 'frame-fives', frames: 2, start: [8, 5], moves: true, byRule: false };

async function board(plan: BoardPlan, options = USUAL_OPTIONS) {
  configure();
  const fixture = TestBed.createComponent(BoardAnswer);
  for (const [name, value] of Object.entries({ plan, options, counters: 'dots' }))
    fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  const element = fixture.nativeElement as HTMLElement;
  document.body.append(element);
  const box = (n: number) => element.querySelectorAll<HTMLButtonElement>('.box')[n - 1]!;
  const filled = () => fixture.componentInstance.board().flatMap((full, i) => (full ? [i + 1] : []));
  const drop = (from: number, to: number) =>
    fixture.componentInstance.drop({
      previousContainer: { data: from },
      container: { data: to },
    } as unknown as CdkDragDrop<number>);
  const arrow = (key: string): void =>
    void document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  return { fixture, element, box, filled, drop, arrow };
}

describe('the board a child builds on', () => {
  afterEach(() => document.body.replaceChildren());

  it('takes one counter a box, and gives it back', async () => {
    const { fixture, box, filled } = await board(ONE);
    box(1).click();
    box(7).click();
    await fixture.whenStable();
    expect(filled()).toEqual([1, 7]);
    expect([box(7).getAttribute('aria-pressed'), box(7).querySelector('svg') !== null]).toEqual(['true', true]);
    box(7).click();
    expect(filled()).toEqual([1]);
  });

  it('takes counters from the pool, moves them, and lets them go; never two in a box', async () => {
    const { filled, drop } = await board(ONE);
    drop(-1, 3);
    drop(-1, 3);
    expect(filled()).toEqual([4]);
    drop(-1, 0);
    drop(0, 3);
    expect(filled()).toEqual([1, 4]);
    drop(3, 9);
    drop(0, -1);
    expect(filled()).toEqual([10]);
  });

  it('is walked through by the arrow keys, across and down', async () => {
    const { box, arrow } = await board(ONE);
    const at = (): string | null | undefined => document.activeElement?.getAttribute('aria-label');
    box(1).focus();
    arrow('ArrowRight');
    expect(at()).toBe('box 2');
    arrow('ArrowDown');
    expect(at()).toBe('box 7');
    arrow('ArrowLeft');
    arrow('ArrowUp');
    expect(at()).toBe('box 1');
  });

  it('with two frames moves from the one to the other, and has no pool', async () => {
    const { element, box, filled } = await board(TWO);
    expect([element.querySelectorAll('.frame').length, element.querySelector('.pool')]).toEqual([2, null]);
    box(15).click();
    box(14).click();
    expect(filled()).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13]);
  });

  it('marks the start box only when that is wished, and stands upright when that is', async () => {
    const lying = await board(ONE);
    expect([lying.element.querySelectorAll('.start').length, lying.box(6).style.gridRow]).toEqual([1, '2']);
    TestBed.resetTestingModule();
    const upright = await board(ONE, { ...USUAL_OPTIONS, startBox: 'hidden', direction: 'columns' });
    expect([upright.element.querySelectorAll('.start').length, upright.box(6).style.gridColumn]).toEqual([0, '2']);
  });
});

describe('the row a child cuts', () => {
  it('can be cut between any two, never at an end, and not twice in one place', async () => {
    configure();
    const fixture = TestBed.createComponent(CutAnswer);
    fixture.componentRef.setInput('want', { by: 'cut', count: 5, cuts: [2] });
    fixture.componentRef.setInput('counters', 'shells');
    await fixture.whenStable();
    const cuts = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
    expect(cuts.map((b) => [b.dataset['number'], b.disabled])).toEqual([
      ['1', false],
      ['2', true],
      ['3', false],
      ['4', false],
    ]);
  });
});
