import { someResponse } from '../testing/response';
import { helped, saidHow } from './saidHow';

describe('how a child said it', () => {
  it('is counted way by way, lately and before, void answers left out', () => {
    const said = [
      someResponse({ shownAt: 1, explanation: 'count-on' }),
      someResponse({ shownAt: 2, explanation: 'count-on' }),
      someResponse({ shownAt: 9, explanation: 'count-on' }),
      someResponse({ shownAt: 10, explanation: 'five-and' }),
      someResponse({ shownAt: 11, explanation: 'five-and' }),
      someResponse({ shownAt: 12, explanation: 'double', void: 'spoiled' }),
      someResponse({ shownAt: 13 }),
    ];
    expect(saidHow(said, 9)).toEqual([
      { explanation: 'five-and', lately: 2, before: 0 },
      { explanation: 'count-on', lately: 1, before: 2 },
    ]);
  });
});

describe('what helped', () => {
  it('is counted, with how often the right answer came then', () => {
    const wrong = { given: '6', outcome: 'wrong' as const };
    expect(
      helped([
        someResponse({ ...wrong, help: ['look-again', 'count-together'], secondAnswer: '7' }),
        someResponse({ ...wrong, help: ['look-again'], secondAnswer: '8' }),
        someResponse({ ...wrong, help: ['look-again'] }),
        someResponse({ ...wrong, help: ['frame-under'], secondAnswer: '7', void: 'undone' }),
      ]),
    ).toEqual([
      { help: 'look-again', times: 3, putRight: 1 },
      { help: 'count-together', times: 1, putRight: 1 },
    ]);
  });
});
