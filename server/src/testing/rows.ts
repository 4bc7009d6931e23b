/** A row as a device sends it. */
export const rowFor = (child: string, change: object = {}) => ({
  response_id: 'r1',
  child,
  sitting: 's1',
  shown_at: '2026-11-25T08:30:00.000Z',
  kind: 'show',
  fact: 'show:7:frame-fives',
  answer_mode: 'tap',
  exposure_ms: 750,
  response_ms: 1500,
  given: '7',
  outcome: 'correct',
  observed: '',
  aid: 'none',
  void: '',
  flags: [],
  quality: null,
  ...change,
});
export const SITTING = {
  id: 's1',
  routine: 'flash-and-say',
  started_at: '2026-11-25T08:29:00.000Z',
  answer_mode: 'tap',
  settings: null,
};
