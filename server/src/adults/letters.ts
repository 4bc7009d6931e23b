import { catalogue } from '@vane/core';
import { Adult, AdultLink, School } from '../db/entities';
import type { Database } from '../db/database';
import type { LetterWish } from '../jobs/jobs';
import type { Mail } from '../outside/mail';
import { hashOf, newToken } from './tokens';

/** What letters are sent with. */
export interface Posting {
  readonly mail: Mail;
  /** Vane's address as adults know it. */
  readonly publicUrl: string;
}

/**
 * Writes a letter and sends it. Its link gets its token only now, so that nothing that waits opens an account; where it is tried again, the letter before opens nothing. A link that was used or
 * withdrawn meanwhile needs none.
 */
export async function sendLetter(
  { orm, now, mail, publicUrl }: Posting & Pick<Database, 'orm'> & { readonly now: () => Date },
  { schoolId, linkId: id, language, by, home = publicUrl }: LetterWish,
  last: boolean,
): Promise<void> {
  const em = orm.em.fork();
  const link = await em.findOne(AdultLink, { schoolId, id, expiresAt: { $gt: now() } });
  if (!link) return;
  const token = newToken();
  await em.nativeUpdate(AdultLink, { schoolId, id }, { letterHash: hashOf(token) });
  const say = catalogue(language).letters;
  const school = await em.findOneOrFail(School, { id: schoolId });
  const inviting = by === null ? null : await em.findOne(Adult, { schoolId, id: by });
  const letter =
    link.purpose === 'reset'
      ? say.newPassword(`${home}/reset/${token}`)
      : say.invitation(inviting?.name ?? school.name, school.name, `${home}/join/${token}`);
  try {
    const { replyTo = null } = school;
    await mail.send({ schoolId, secret: link.purpose === 'reset', to: link.email, replyTo, ...letter, at: now() });
  } catch (error) {
    if (last) await em.nativeUpdate(AdultLink, { schoolId, id }, { letter: 'failed' });
    throw error;
  }
  await em.nativeUpdate(AdultLink, { schoolId, id }, { letter: 'sent' });
}
