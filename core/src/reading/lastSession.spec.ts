import { someResponse } from '../testing/response';
import { english } from '../words/english/index';
import { lastSession } from './lastSession';

const answered = (sitting: string, more: Parameters<typeof someResponse>[0] = {}) =>
  someResponse({ sitting, kind: 'add', fact: '3+4', given: '7', ...more });

describe('what a child answered in their last session', () => {
  it('is of that session alone: judged, wrong, and with help; what is void or measures only is none of it', () => {
    const responses = [
      answered('monday', { outcome: 'wrong', given: '8' }),
      answered('tuesday'),
      answered('tuesday', { outcome: 'wrong', given: '6' }),
      answered('tuesday', { outcome: 'none', given: '' }),
      answered('tuesday', { outcome: 'wrong', given: '1', void: 'spoiled' }),
      answered('tuesday', { aid: 'objects' }),
      answered('tuesday', { kind: 'match', fact: 'match:4', given: '4' }),
    ];
    expect(lastSession(responses)).toEqual({ judged: 2, wrong: 1, helped: 1 });
    expect(lastSession(responses.slice(0, 1))).toEqual({ judged: 1, wrong: 1, helped: 0 });
    expect(lastSession([])).toEqual({ judged: 0, wrong: 0, helped: 0 });
  });

  it.each([
    [{ judged: 0, wrong: 0, helped: 2 }, /every answer was given with help/],
    [{ judged: 0, wrong: 0, helped: 0 }, /none of these answers was judged/],
    [{ judged: 1, wrong: 0, helped: 0 }, /the one answer was right/],
    [{ judged: 4, wrong: 0, helped: 1 }, /all four answers were right/],
    [{ judged: 1, wrong: 1, helped: 0 }, /The one answer was wrong/],
    [{ judged: 4, wrong: 1, helped: 0 }, /One of four answers was wrong/],
    [{ judged: 4, wrong: 3, helped: 0 }, /Three of four answers were wrong/],
    [{ judged: 4, wrong: 4, helped: 0 }, /All four answers were wrong/],
  ])('%j that changed nothing is told as it was', (sum, said) => {
    const words = english.pages.evidence.nothingMoved(sum);
    expect(words).toMatch(/^Nothing changed/);
    expect(words).toMatch(said);
    expect(words.includes('wrong')).toBe(sum.wrong > 0);
  });
});
