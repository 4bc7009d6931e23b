import type { GroupSheetView } from '@vane/contract';
import type { InferEntity } from '@mikro-orm/core';
import { isDeepStrictEqual } from 'node:util';
import { newCode } from '../adults/tokens';
import { Child, GroupSheet, HelperLinkEntity } from '../db/entities';
import { dayStarts, timeZoneOf } from '../db/timeZone';
import { RequestProblem } from '../problems/problem';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';

const viewOf = (
  sheet: Pick<InferEntity<typeof GroupSheet>, 'code' | 'children' | 'facts' | 'session' | 'madeAt' | 'keyedAt'>,
  linkUntil: Date | null = null,
): GroupSheetView => ({
  code: sheet.code,
  children: sheet.children,
  facts: sheet.facts,
  session: sheet.session ?? null,
  madeAt: sheet.madeAt.toISOString(),
  keyedAt: sheet.keyedAt?.toISOString() ?? null,
  linkUntil: linkUntil?.toISOString() ?? null,
});

/** Sheets for helpers, and their keying in. */
export const groupSheetRoutes = (deps: Deps): ContractRoutes =>
  new ContractRoutes()
    .on('GET /classes/:classId/group-sheets', async (c) => {
      const key = c.var.classKey;
      const links = await c.var.em.find(HelperLinkEntity, { ...key, until: { $gt: deps.now() } });
      const sheets = await c.var.em.find(GroupSheet, key, { orderBy: { madeAt: 'desc' }, limit: 50 });
      return sheets.map((sheet) => viewOf(sheet, links.find(({ code }) => code === sheet.code)?.until));
    })
    .on('POST /classes/:classId/group-sheets', async (c, { body: { children, facts, session } }) => {
      const key = c.var.classKey;
      if ((await c.var.em.count(Child, { ...key, id: { $in: children } })) !== new Set(children).size)
        throw new RequestProblem('not-found');
      const wish = { children, facts, session };
      // Whoever asks twice for the same on a day wants the page again, not a second one.
      const today = dayStarts(deps.now(), await timeZoneOf(c.var.em, key.schoolId));
      const unused = await c.var.em.find(GroupSheet, { ...key, keyedAt: null, madeAt: { $gte: today } });
      const again = unused.find((sheet) => isDeepStrictEqual({ ...viewOf(sheet), ...wish }, viewOf(sheet)));
      if (again) {
        const link = await c.var.em.findOne(HelperLinkEntity, { ...key, code: again.code, until: { $gt: deps.now() } });
        return viewOf(again, link?.until);
      }
      const sheet = { ...key, code: newCode(), ...wish, madeAt: deps.now(), keyedAt: null };
      await c.var.em.insert(GroupSheet, sheet);
      return viewOf(sheet);
    })
    .on('PUT /classes/:classId/group-sheets/:code/keyed', async (c, { code }) => {
      const key = c.var.classKey;
      const changed = await c.var.em.nativeUpdate(GroupSheet, { ...key, code: code }, { keyedAt: deps.now() });
      if (changed === 0) throw new RequestProblem('not-found');
    });
