import type { Support } from '../../routines/support';

/** Adjustments for a child, as they are ticked. */
export const supports: Readonly<Record<Support, string>> = {
  'more-time': 'more time to answer',
  larger: 'larger pictures and numbers',
  'no-flash': 'nothing flashed: pictures stay',
  pointing: 'answers by pointing',
  'adult-speaks': 'an adult says the answer for them',
};

/** What the adult does on the carpet: a short sentence for each. */
export const reminders: Readonly<Record<Support, (nickname: string) => string>> = {
  'more-time': (nickname) => `Give ${nickname} time: wait, and say nothing.`,
  larger: (nickname) => `Pictures are larger for ${nickname}.`,
  'no-flash': (nickname) => `Nothing flashes for ${nickname}: the picture stays.`,
  pointing: (nickname) => `${nickname} points: enter what they show.`,
  'adult-speaks': (nickname) => `Say aloud what ${nickname} shows you.`,
};
