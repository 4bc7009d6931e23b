import type { CorrectionChange, CorrectionRequest } from '@vane/contract';
import { answerTo, observedText, parseObserved } from '@vane/core';
import { LockMode } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import type { ClassKey } from '../db/keys';
import { Child, Correction, ResponseEntity, type Correctable, type ResponseRowEntity } from '../db/entities';
import { RequestProblem } from '../problems/problem';

const correctableOf = ({ childId, given, outcome, observed, void: why }: ResponseRowEntity): Correctable => ({
  childId,
  given,
  outcome,
  observed,
  void: why,
});

/** The one right answer; a problem where there is none, as with the ways to make a number. */
function oneAnswerTo(fact: string): string {
  const answer = answerTo(fact);
  if (answer !== null) return answer;
  throw new RequestProblem('not-correctable', { detail: `"${fact}" has no single right answer: void it instead` });
}

/** @param earlier what was changed of the row before, in order */
function changed(
  row: ResponseRowEntity,
  change: CorrectionChange,
  earlier: readonly { readonly before: Correctable; readonly after: Correctable }[],
): Correctable {
  const now = correctableOf(row);
  switch (change.what) {
    case 'void':
      return { ...now, void: change.reason };
    case 'valid': {
      const voided = earlier.findLast(({ after }) => after.void === change.reason);
      return now.void === change.reason ? { ...now, void: voided?.before.void ?? '' } : now;
    }
    case 'answer':
      return {
        ...now,
        given: change.given,
        outcome: change.given === '' ? 'none' : change.given === oneAnswerTo(row.fact) ? 'correct' : 'wrong',
      };
    case 'child':
      return { ...now, childId: change.child };
    case 'slip': {
      const { sign, finerSigns } = parseObserved(row.observed) ?? { sign: null, finerSigns: [] };
      return {
        ...now,
        given: oneAnswerTo(row.fact),
        outcome: 'correct',
        observed: observedText({ sign, finerSigns: [...finerSigns, 'writing-slip'] }),
      };
    }
    case 'original':
      return earlier[0]?.before ?? now;
  }
}

const same = (a: Correctable, b: Correctable): boolean =>
  (Object.keys(a) as (keyof Correctable)[]).every((part) => a[part] === b[part]);

/**
 * Puts responses right: each keeps what it was before, with who changed it and when. A corrected response counts as newly arrived, so that the readings made from
 * it are made again. Of two who correct one response at once, the later sees what the earlier wrote. Returns how many were changed; written with the transaction, a sitting of forty in a few statements.
 */
export async function correct(
  em: EntityManager,
  key: ClassKey,
  adult: { id: string; name: string },
  { responses, sitting, change }: CorrectionRequest,
  now: Date,
): Promise<number> {
  const rows = await em.find(
    ResponseEntity,
    {
      ...key,
      ...(sitting === undefined ? { id: { $in: responses ?? [] } } : { sittingId: sitting }),
    },
    { lockMode: LockMode.PESSIMISTIC_WRITE, orderBy: { id: 'asc' } },
  );
  if (rows.length === 0) throw new RequestProblem('not-found');
  const earlier = await em.find(
    Correction,
    { ...key, responseId: { $in: rows.map((r) => r.id) } },
    { orderBy: { madeAt: 'asc', id: 'asc' }, disableIdentityMap: true },
  );
  const children = new Set((await em.find(Child, { ...key }, { fields: ['id'] })).map((child) => child.id));
  if (change.what === 'child' && !children.has(change.child)) throw new RequestProblem('not-found');
  let count = 0;
  for (const row of rows) {
    const before = correctableOf(row);
    const own = earlier.filter((c) => c.responseId === row.id);
    const after = changed(row, change, own);
    if (same(after, before)) continue;
    if (after.childId !== before.childId && !children.has(after.childId))
      throw new RequestProblem('not-correctable', {
        detail: 'the child it was first recorded for is not in this class any more',
      });
    const made = {
      ...key,
      id: v7(),
      responseId: row.id,
      what: change.what,
      before,
      after,
      adultId: adult.id,
      adultName: adult.name,
      madeAt: now,
    };
    em.persist(em.create(Correction, made));
    em.assign(row, { ...after, receivedAt: now });
    count++;
  }
  return count;
}
