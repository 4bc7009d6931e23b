import type { NoteView } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { audit } from '../request/audit';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { Child, Note, SchoolClass, Sitting, ResponseEntity } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import { statementId } from '../outside/statementIds';
import type { Forgotten } from '../outside/recordStore';
import { addChildren, eraseChild, moveChildren, taken, demandRoom } from './children';
import { type ClassKey } from '../db/keys';
import { mayEnter } from '../adults/rights';

const MOST_CHILDREN = 60;

/** Notes on a child, newest first. */
export async function notesOf(em: EntityManager, key: ClassKey, adultId: string, childId: string): Promise<NoteView[]> {
  const found = await em.find(Note, { ...key, childId }, { orderBy: { madeAt: 'desc', id: 'desc' } });
  return found.map((n) => ({
    id: n.id,
    text: n.text,
    by: n.adultName,
    madeAt: n.madeAt.toISOString(),
    own: n.adultId === adultId,
  }));
}

/** Takes back what was handed to the learning-record store of a child. */
async function takenBack(deps: Deps, whose: Forgotten): Promise<void> {
  try {
    await deps.recordStore.forget(whose);
  } catch (error) {
    throw new RequestProblem('no-record-store', { detail: error instanceof Error ? error.message : String(error) });
  }
}

/** The children of a class: added, renamed, moved, put away, deleted; and notes. */
export function manageRoutes(deps: Deps): ContractRoutes {
  return new ContractRoutes()
    .on('POST /classes/:classId/children', async (c, { body: { nicknames } }) => {
      const key = c.var.classKey;
      if ((await c.var.em.count(Child, { ...key, archivedAt: null })) + nicknames.length > MOST_CHILDREN)
        throw new RequestProblem('too-many-children', { detail: `a class has at most ${MOST_CHILDREN}` });
      await c.var.em.transactional((em) => addChildren(em, key, nicknames, deps.now()));
    })
    .on('PUT /classes/:classId/children/:childId', async (c, { childId, body: change }) => {
      const key = c.var.classKey;
      const id = childId;
      const now = deps.now();
      await c.var.em.transactional(async (em) => {
        if ('classId' in change) {
          const to = change.classId.toLowerCase();
          // Only to a class that is the adult's own too, and in use.
          const open = await em.count(SchoolClass, { schoolId: key.schoolId, id: to, archivedAt: null });
          if (open === 0 || to === key.classId || !(await mayEnter(em, c.var.adult, to)))
            throw new RequestProblem('not-found');
          await moveChildren(em, key, [id], to);
          return audit(em, c.var.adult, now, 'child moved', '', id);
        }
        if ('support' in change) {
          const { supports, words } = change.support;
          const none = supports.length === 0 && words === '';
          const said = {
            supports,
            supportWords: words,
            supportBy: none ? '' : c.var.adult.name,
            supportAt: none ? null : now,
          };
          if ((await em.nativeUpdate(Child, { ...key, id }, said)) === 0) throw new RequestProblem('not-found');
          return audit(em, c.var.adult, now, 'support changed', '', id);
        }
        if ('door' in change) {
          if ((await em.nativeUpdate(Child, { ...key, id }, { door: change.door })) === 0)
            throw new RequestProblem('not-found');
          return;
        }
        const to = 'nickname' in change ? { nickname: change.nickname } : { archivedAt: change.archived ? now : null };
        if ((await taken(() => em.nativeUpdate(Child, { ...key, id }, to))) === 0)
          throw new RequestProblem('not-found');
        if ('archived' in change && !change.archived) await demandRoom(em, key.schoolId);
        if ('archived' in change && change.archived) await audit(em, c.var.adult, now, 'child archived', '', id);
      });
    })
    .on('DELETE /classes/:classId/children/:childId', async (c, { childId }) => {
      const key = c.var.classKey;
      const id = childId;
      const own = await c.var.em.find(ResponseEntity, { ...key, childId: id }, { fields: ['id'] });
      // What was handed over goes first: if that fails, the child is still here to be deleted.
      await takenBack(deps, {
        account: id,
        homePage: deps.publicUrl,
        statements: own.map((row) => statementId(key.schoolId, row.id)),
      });
      const responses = await c.var.em.transactional(async (em) => {
        const erased = await eraseChild(em, key, id);
        await audit(em, c.var.adult, deps.now(), 'child deleted', `with ${erased} responses`);
        return erased;
      });
      deps.jobs.ask('trim', {});
      return { responses };
    })
    .on('POST /classes/:classId/notes', async (c, { body }) => {
      const key = c.var.classKey;
      const { text, child = null, sitting = null } = body;
      const there =
        child === null
          ? await c.var.em.count(Sitting, { ...key, id: sitting ?? '' })
          : await c.var.em.count(Child, { ...key, id: child });
      if (there === 0) throw new RequestProblem('not-found');
      const by = { adultId: c.var.adult.id, adultName: c.var.adult.name, madeAt: deps.now() };
      await c.var.em.insert(Note, { ...key, id: v7(), childId: child, sittingId: sitting, text, ...by });
    })
    .on('DELETE /classes/:classId/notes/:id', async (c, { id }) => {
      const own = {
        ...c.var.classKey,
        id: id,
        adultId: c.var.adult.id,
      };
      if ((await c.var.em.nativeDelete(Note, own)) === 0) throw new RequestProblem('not-found');
    });
}
