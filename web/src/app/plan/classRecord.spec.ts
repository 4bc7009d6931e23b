import { TestBed } from '@angular/core/testing';
import type { ClassReadings } from '@vane/contract';
import { TestScheduler } from 'rxjs/testing';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { CHILDREN, CLASS } from '../testing/page';
import { needsFor } from './classPlan';
import { ClassRecords } from './classRecord';

const JUDGED: ClassReadings = { judgedAt: null, modelVersion: 'x', judging: 'done', readings: [], asked: [] };

const answering = (view: () => unknown, judged: () => unknown) => ({ ask: view, readings: judged });

describe('what the server says of a class', () => {
  it('is asked once for all who want it and its plan in the same moment, and anew for who comes later', () => {
    new TestScheduler((actual, expected) => expect(actual).toEqual(expected)).run((play) => {
      const view = play.cold('--(v|)', { v: CLASS });
      TestBed.configureTestingModule({
        providers: [
          {
            provide: Api,
            useValue: answering(
              () => view,
              () => play.cold('-(j|)', { j: JUDGED }),
            ),
          },
          { provide: Session, useValue: { timeZone: () => 'Europe/London' } },
        ],
      });
      const records = TestBed.inject(ClassRecords);
      const record = { view: CLASS, judged: JUDGED };
      play.expectObservable(records.record('class')).toBe('--(r|)', { r: record });
      play.expectObservable(records.plan('class'), '-^').toBe('--(p|)', {
        p: {
          ...record,
          needs: needsFor({ children: CHILDREN, judged: JUDGED, timeZone: 'Europe/London' }, Date.now()),
        },
      });
      play.expectObservable(records.record('class'), '-----^').toBe('-------(r|)', { r: record });
      play.expectSubscriptions(view.subscriptions).toBe(['^-!', '-----^-!']);
    });
  });

  it('goes to everybody who waits where it fails', () => {
    new TestScheduler((actual, expected) => expect(actual).toEqual(expected)).run((play) => {
      TestBed.configureTestingModule({
        providers: [
          {
            provide: Api,
            useValue: answering(
              () => play.cold('-#'),
              () => play.cold('--|'),
            ),
          },
          { provide: Session, useValue: { timeZone: () => 'Europe/London' } },
        ],
      });
      const records = TestBed.inject(ClassRecords);
      play.expectObservable(records.record('class')).toBe('-#');
      play.expectObservable(records.plan('class')).toBe('-#');
    });
  });
});
