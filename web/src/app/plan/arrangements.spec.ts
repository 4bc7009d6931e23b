import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import type { Arrangements } from '@vane/contract';
import { dateOfDay, schoolDays } from '@vane/core/time/schoolDay';
import { configure } from '../testing/page';
import { ClassArrangements, NEW_DAY, USUAL_WEEK } from './arrangements';

const TODAY = dateOfDay(schoolDays('Europe/London')(Date.now()));
const told = (changedAt: number, minutes: number, date = TODAY): Arrangements => ({
  day: { changedAt, date, plan: { ...NEW_DAY, minutes } },
  week: { changedAt, settings: { ...USUAL_WEEK, minutes } },
});

describe('what a class has arranged', () => {
  const begun = () => {
    configure();
    localStorage.clear();
    return { kept: TestBed.inject(ClassArrangements), http: TestBed.inject(HttpTestingController) };
  };

  it('is what was changed last, here or on another device; a day of yesterday is over', () => {
    const { kept, http } = begun();
    expect(kept.day('one', null)).toEqual(NEW_DAY);
    expect(kept.day('one', told(5, 20)).minutes).toBe(20);
    expect(kept.day('one', told(5, 20, '2020-01-01'))).toEqual(NEW_DAY);
    kept.keepDay('one', { ...NEW_DAY, minutes: 12 });
    http.expectOne({ method: 'PUT', url: '/api/classes/one/day-plan' }).flush(null);
    expect([kept.day('one', null).minutes, kept.day('two', null).minutes]).toEqual([12, 8]);
    expect(kept.day('one', told(Date.now() + 1000, 30)).minutes).toBe(30);
    kept.keepWeek('one', { ...USUAL_WEEK, group: 2 });
    http.expectOne({ method: 'PUT', url: '/api/classes/one/week-settings' }).flush(null);
    expect(kept.week('one', told(5, 20))).toMatchObject({ group: 2, minutes: 15 });
  });

  it('is sent again when the class is asked for, where the server has not got it', () => {
    const { kept, http } = begun();
    kept.keepDay('one', { ...NEW_DAY, minutes: 12 });
    http.expectOne('/api/classes/one/day-plan').error(new ProgressEvent('error'));
    kept.catchUp('one', { day: null, week: null });
    const again = http.expectOne('/api/classes/one/day-plan').request.body as NonNullable<Arrangements['day']>;
    expect(again).toMatchObject({ date: TODAY, plan: { minutes: 12 } });
    // It has it now: there is nothing to send.
    kept.catchUp('one', { day: again, week: null });
    http.verify();
  });
});
