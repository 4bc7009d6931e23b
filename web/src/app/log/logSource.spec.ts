import type { LogPage } from '@vane/contract';
import { of, Subject, throwError } from 'rxjs';
import { LogSource, type LogLine, type LogRow } from './logSource';

const page = (from: number, total: number): LogPage => ({
  total,
  rows: Array.from(
    { length: Math.max(0, Math.min(200, total - from)) },
    (_, i) => ({ response_id: `r${from + i}` }) as LogRow,
  ),
});

describe('the lines of the log', () => {
  it('are fetched once each as they come into view', () => {
    const asked: number[] = [];
    const view = new Subject<{ start: number; end: number }>();
    const source = new LogSource(
      page(0, 1000),
      (row) => row.response_id,
      (offset) => (asked.push(offset), of(page(offset, 1000))),
      () => undefined,
    );
    let lines: readonly LogLine<string>[] = [];
    source.connect({ viewChange: view }).subscribe((now) => (lines = now));
    expect([lines.length, lines[199]?.words, lines[200]]).toEqual([1000, 'r199', { at: 200, row: null, words: null }]);
    view.next({ start: 390, end: 420 });
    view.next({ start: 395, end: 425 });
    expect(asked).toEqual([200, 400]);
    expect([lines[390]?.at, lines[390]?.words, lines[599]?.words, lines[600]?.row]).toEqual([
      390,
      'r390',
      'r599',
      null,
    ]);
    source.disconnect();
    view.next({ start: 900, end: 920 });
    expect(asked).toEqual([200, 400]);
  });

  it('are asked for again after a failure, which is told', () => {
    const view = new Subject<{ start: number; end: number }>();
    const told: unknown[] = [];
    let down = true;
    const source = new LogSource(
      page(0, 500),
      (row) => row.response_id,
      (offset) => (down ? throwError(() => new Error('down')) : of(page(offset, 500))),
      (error) => told.push(error),
    );
    let lines: readonly LogLine<string>[] = [];
    source.connect({ viewChange: view }).subscribe((now) => (lines = now));
    view.next({ start: 200, end: 220 });
    expect([told.length, lines[200]?.row]).toEqual([1, null]);
    down = false;
    view.next({ start: 201, end: 221 });
    expect(lines[200]?.row?.response_id).toBe('r200');
  });
});
