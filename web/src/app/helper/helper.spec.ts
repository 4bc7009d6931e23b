import type { HelperSheet } from '@vane/contract';
import { USUAL_OPTIONS, USUAL_WORDS } from '@vane/core';
import { KeptAnswers, turnsOf } from './helperTurns';

const SHEET: HelperSheet = {
  code: 'QRST23',
  session: null,
  children: [
    {
      id: 'oriel',
      nickname: 'Oriel',
      asks: [
        { fact: '3+4', form: 'picture' },
        { fact: '2+?=5', form: 'symbols' },
        { fact: '3+4', form: 'symbols' },
      ],
      exposureMs: 750,
    },
    { id: 'tamsin', nickname: 'Tamsin', asks: [{ fact: 'show:7:frame-fives', form: 'symbols' }], exposureMs: null },
  ],
  ways: { layout: 'frame-fives', words: USUAL_WORDS, options: USUAL_OPTIONS },
  given: [],
};
const said = (sheet: HelperSheet, ...kept: Parameters<typeof turnsOf>[1][number][]) =>
  turnsOf(sheet, kept).map(({ nickname, place, ask }) => [nickname, place, ask.fact]);
const answer = { child: 'oriel', place: 1, given: '3', counted: false, again: false, at: '2026-11-25T09:00:00Z' };

describe('a helper’s turns', () => {
  it('go round, each child its own questions in order', () => {
    expect(said(SHEET)).toEqual([
      ['Oriel', 0, '3+4'],
      ['Tamsin', 0, 'show:7:frame-fives'],
      ['Oriel', 1, '2+?=5'],
      ['Oriel', 2, '3+4'],
    ]);
    const [first, second] = turnsOf(SHEET, []);
    expect([first?.ask.flash, second?.ask.flash, second?.exposureMs]).toEqual([false, true, null]);
  });

  it('leave out what was answered, here or on the server: of a fact asked twice, that time alone', () => {
    const sheet = { ...SHEET, given: [{ child: 'oriel', place: 0 }] };
    expect(said(sheet, answer)).toEqual([
      ['Tamsin', 0, 'show:7:frame-fives'],
      ['Oriel', 2, '3+4'],
    ]);
  });
});

describe('answers on a helper’s phone', () => {
  it('are there for a page that is opened anew, until they have arrived', () => {
    new KeptAnswers('QRST23').add(answer);
    new KeptAnswers('QRST23').add({ ...answer, place: 2 });
    const again = new KeptAnswers('QRST23');
    expect(again.all()).toHaveLength(2);
    expect(new KeptAnswers('OTHER1').all()).toEqual([]);
    again.drop([answer]);
    expect(again.all()).toEqual([{ ...answer, place: 2 }]);
    again.drop(again.all());
    expect(localStorage).toHaveLength(0);
  });
});
