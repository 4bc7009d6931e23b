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
    fixture.componentInstance.text.setValue(typed);
    expect(fixture.componentInstance.found()[0]?.words).toBe(first);
  });
});
