import { TestBed } from '@angular/core/testing';
import type { Reading } from '@vane/core';
import { WhoKnows } from './whoKnows';

const reading = (fact: string): Reading => ({
  child: 'odo',
  fact,
  reading: 'knows',
  pAutomatic: 0.9,
  lean: 0.8,
  certainty: 0.8,
  responses: 3,
  days: 2,
  reason: { code: 'quick-on-days' },
});

describe('who knows', () => {
  it.each([
    ['3+4=7', '3 + 4'],
    ['seeing 8', '8 on a frame by fives'],
    ['pairs of 6', 'Pairs of six'],
    ['bonds of 6', 'Pairs of six'],
    ['taking away', 'Take away and missing part: two'],
    ['missing part', 'Take away and missing part: two'],
    ['to 10', 'How many more to ten'],
  ])('understands "%s"', (typed, first) => {
    const fixture = TestBed.createComponent(WhoKnows);
    fixture.componentRef.setInput('readings', ['3+4', 'show:8:frame-fives', '2+?=5'].map(reading));
    fixture.detectChanges();
    fixture.componentInstance.asked.setValue(typed);
    expect(fixture.componentInstance.found()[0]?.words).toBe(first);
  });

  it('leads to a child by its name; a question it does not understand takes the last answer away', () => {
    const fixture = TestBed.createComponent(WhoKnows);
    fixture.componentRef.setInput('readings', [reading('3+4')]);
    fixture.componentRef.setInput('children', [{ id: 'w', nickname: 'Wilfa' }]);
    fixture.detectChanges();
    const page = fixture.componentInstance;
    const heard: unknown[] = [];
    page.topic.subscribe((one) => heard.push(one?.words ?? null));
    page.child.subscribe((child) => heard.push(child));
    const choose = (typed: string): void => {
      page.asked.setValue(typed);
      page.asked.setValue(page.found()[0] ?? '');
    };
    choose('wilf');
    expect(heard).toEqual([null, 'w', null]);
    choose('3+4=7');
    expect(heard.slice(3)).toEqual([null, '3 + 4']);
    page.asked.setValue('elephants');
    expect([page.found(), page.chosen(), heard.at(-1)]).toEqual([[], false, null]);
  });
});
