import { of, throwError, defer, retry } from 'rxjs';
import { TestScheduler } from 'rxjs/testing';
import { exponentialBackoff } from './exponentialBackoff';
import { exhaustMapLatest } from './exhaustMapLatest';

const marbles = (): TestScheduler => new TestScheduler((actual, expected) => expect(actual).toEqual(expected));

describe('exhaustMapLatest', () => {
  it.each([
    ['works on what comes alone', 'a-----b---|', '--a-----b-|'],
    ['leaves out what is overtaken while it works', 'abc-----|', '--a--c--|'],
    ['ends after the last that came', 'ab|', '--a--b|'],
    ['ends when nothing is under way', '|', '|'],
    ['hands on a failure of what comes', 'a---#', '--a-#'],
  ])('%s', (_, source, expected) => {
    marbles().run(({ cold, expectObservable }) => {
      const work = (value: string) => cold('--x|', { x: value });
      expectObservable(cold(source).pipe(exhaustMapLatest(work))).toBe(expected);
    });
  });

  it('stops the work when nobody listens any more, and hands on its failure', () => {
    marbles().run(({ cold, hot, expectObservable, expectSubscriptions }) => {
      const work = cold('-----x|');
      expectObservable(cold('a').pipe(exhaustMapLatest(() => work)), '---!').toBe('');
      expectSubscriptions(work.subscriptions).toBe('^--!');
      expectObservable(hot('a').pipe(exhaustMapLatest(() => cold('--#')))).toBe('--#');
    });
  });

  it('works at once on values that come at once', () => {
    marbles().run(({ expectObservable }) => {
      expectObservable(of('a', 'b', 'c').pipe(exhaustMapLatest((value) => of(value)))).toBe('(abc|)');
    });
  });
});

describe('exponentialBackoff', () => {
  const failing = (times: number) => {
    let tries = 0;
    return defer(() => (tries++ < times ? throwError(() => new Error('away')) : of(tries)));
  };

  it('waits twice as long after each failure, up to the longest, a little less by chance', () => {
    marbles().run(({ expectObservable }) => {
      const waits = { first: 10, longest: 40 };
      expectObservable(failing(4).pipe(retry(exponentialBackoff({ ...waits, random: () => 0 })))).toBe('110ms (x|)', {
        x: 5,
      });
      expectObservable(failing(4).pipe(retry(exponentialBackoff({ ...waits, random: () => 0.8 })))).toBe('88ms (x|)', {
        x: 5,
      });
    });
  });

  it('waits no longer than until there is a reason to try', () => {
    marbles().run(({ hot, expectObservable }) => {
      const sooner = hot('---y---y');
      const source = failing(2).pipe(retry(exponentialBackoff({ first: 50, longest: 50, sooner, random: () => 0 })));
      expectObservable(source).toBe('-------(x|)', { x: 3 });
    });
  });
});
