import { DAY_MS } from '@vane/core';
import type { SupportView } from '@vane/contract';
import type { Support } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { ClassKey } from '../db/keys';
import { Audit, ClassAdult, SchoolClass } from '../db/entities';
import { audit } from '../request/audit';
import type { Env } from '../request/context';

/** What is kept of a child's support. */
interface KeptSupport {
  readonly supports: readonly Support[];
  readonly supportWords: string;
  readonly supportBy: string;
  readonly supportAt?: Date | null;
}

export const supportView = ({ supports, supportWords, supportBy, supportAt }: KeptSupport): SupportView => ({
  supports,
  words: supportWords,
  by: supportBy,
  madeAt: supportAt?.toISOString() ?? null,
});

/** The same in files (docs/formats.md); null = nothing is noted. */
export const supportFile = ({ supports, supportWords, supportBy, supportAt }: KeptSupport) =>
  supportBy === ''
    ? null
    : { supports: [...supports], words: supportWords, by: supportBy, made_at: supportAt?.toISOString() ?? null };

/** Support is for the class's own adults: a lead who reads it in a class that is not theirs is written down, once a day and class. */
export async function supportReadBy(
  em: EntityManager,
  key: ClassKey,
  adult: Env['Variables']['adult'],
  now: Date,
): Promise<void> {
  if (adult.role !== 'lead') return;
  if ((await em.count(ClassAdult, { ...key, adultId: adult.id })) > 0) return;
  const kept: unknown[] = await em.execute(
    `select 1 from child where school_id = ? and class_id = ? and (supports <> '[]' or support_words <> '') limit 1`,
    [key.schoolId, key.classId],
  );
  if (kept.length === 0) return;
  const { name } = await em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
  const act = { schoolId: key.schoolId, adultId: adult.id, what: 'support read', detail: name } as const;
  if ((await em.count(Audit, { ...act, at: { $gt: new Date(now.getTime() - DAY_MS) } })) === 0)
    await audit(em, adult, now, act.what, name);
}

/** Adjustments, as they are printed: the ticked ones in words, then the adults' own line. */
export const supportLines = (
  { supports, supportWords }: KeptSupport,
  words: Readonly<Record<Support, string>>,
): string[] => [...supports.map((one) => words[one]), ...(supportWords === '' ? [] : [supportWords])];
