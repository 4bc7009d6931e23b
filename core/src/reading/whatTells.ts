import type { Evidence } from './evidence';
import type { Reading } from './reading';

/**
 * What a reading rests on: decided once, and said in exactly one sentence.
 * `times`, `signs`: of the fact's own answers. `similar`: the answers to similar facts. `mistakes`: how many were wrong. Else it settles nothing, because there are too few answers (`few`), because
 * they point both ways (`mixed`), or because time cannot tell (`short`).
 */
export type Telling = 'times' | 'signs' | 'similar' | 'mistakes' | 'few' | 'mixed' | 'short';

export function whatTells(
  { signs, likeKnowing, likeCounting }: Pick<Evidence, 'signs' | 'likeKnowing' | 'likeCounting'>,
  { reason }: Pick<Reading, 'reason'>,
): Telling {
  const fits = (quick: boolean): boolean => (quick ? likeKnowing > likeCounting : likeCounting > likeKnowing);
  switch (reason.code) {
    case 'needs-answers':
    case 'needs-another-day':
      return 'few';
    case 'mostly-wrong':
      return 'mistakes';
    case 'in-between':
      return 'mixed';
    case 'probably-known':
    case 'ask-the-child':
      return 'short';
    case 'fits-the-rest':
      return 'similar';
    case 'quick-on-days':
      return fits(true) ? 'times' : signs.knew > 0 ? 'signs' : 'similar';
    case 'leads':
      if (reason.strategy === 'guess') return 'mistakes';
      if (fits(false)) return 'times';
      return (reason.strategy === 'derive' ? signs.derived : signs.counted) > 0 ? 'signs' : 'similar';
  }
}
