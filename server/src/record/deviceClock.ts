import { inOurTime, type RecordRow, type SittingRow } from '@vane/contract';

/** Networks are slow and clocks drift a little: only a device that is off by more than this has a wrong clock. */
const TOLERATED_MS = 120_000;

/**
 * What came from a device whose clock is wrong, as it would have been with a right one: moved by as much as the device was off when it sent. Times taken, from show to
 * answer, need no clock and stay. What the device said stands beside it. A device that was corrected between marking and sending cannot be told from a right one.
 */
export function withRightClock(
  sent: {
    readonly sittings: readonly SittingRow[];
    readonly responses: readonly RecordRow[];
    readonly sent_at?: string | undefined;
  },
  now: Date,
): { sittings: SittingRow[]; responses: RecordRow[] } {
  const { sittings, responses, sent_at } = sent;
  const off = sent_at === undefined ? 0 : now.getTime() - Date.parse(sent_at);
  if (Math.abs(off) <= TOLERATED_MS) return { sittings: [...sittings], responses: [...responses] };
  // Two clocks that differ by centuries say nothing of one another.
  const moved = (at: string): string => {
    const to = Date.parse(at) + off;
    return inOurTime(to) ? new Date(to).toISOString() : at;
  };
  return {
    sittings: sittings.map((s) => ({ ...s, started_at: moved(s.started_at) })),
    responses: responses.map((row) => ({
      ...row,
      shown_at: moved(row.shown_at),
      extra: { ...row.extra, device_shown_at: row.shown_at },
    })),
  };
}
