import type { Door } from '@vane/contract';
import { v7 } from 'uuid';
import { demandGoodPassword, passwordHash } from '../adults/passwords';
import { beginSignIn, meOf } from '../adults/signIn';
import { addChildren } from '../classes/children';
import { anySchool, isDemo } from '../db/demoSchool';
import type { Limits } from '../adults/limits';
import { demandSetUpCode, waitsForSetUp } from './setUpCode';
import { giveClass } from '../adults/rights';
import { Adult, School, SchoolClass, SetUpCode } from '../db/entities';
import { removeDemo } from '../demo/load';
import { DEMO_SIGN_IN } from '../demo/names';
import { RequestProblem } from '../problems/problem';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';

/** What stands at the door, and the first set-up: of an empty Vane, or in the place of the demo, by whoever can see the window where Vane was started. */
export function setUpRoutes(deps: Deps, limits: Limits): ContractRoutes {
  return new ContractRoutes()
    .on('GET /door', async (c) => {
      const door: Door = {
        needsSetUp: !(await anySchool(c.var.em)),
        demo: (await isDemo(c.var.em)) ? DEMO_SIGN_IN : null,
      };
      return door;
    })
    .on('POST /set-up', async (c, { body: wish }) => {
      const now = deps.now();
      const adult = {
        schoolId: v7(),
        id: v7(),
        name: wish.name,
        email: wish.email.toLowerCase(),
        role: 'lead' as const,
        createdAt: now,
      };
      // Before any expensive work for this request.
      if (!(await waitsForSetUp(c.var.em))) throw new RequestProblem('set-up-done');
      await limits.count('set-up', c.var.address);
      await demandSetUpCode(c.var.em, wish.code);
      await limits.refund('set-up', c.var.address);
      demandGoodPassword(wish.password, [wish.name, wish.email, wish.school, wish.className]);
      const password = await passwordHash(wish.password);
      await c.var.em.transactional(async (em) => {
        // One at a time: two browsers at the set-up page must not both become the first.
        await em.execute('lock table school in exclusive mode');
        // Whoever tried the demo starts a school of their own in its place.
        if (await isDemo(em)) await removeDemo(em);
        if (await anySchool(em)) throw new RequestProblem('set-up-done');
        await em.nativeDelete(SetUpCode, {});
        const classId = v7();
        await em.insert(School, { id: adult.schoolId, name: wish.school, timeZone: wish.timeZone, createdAt: now });
        await em.insert(Adult, { ...adult, passwordHash: password });
        await em.insert(SchoolClass, { schoolId: adult.schoolId, id: classId, name: wish.className, createdAt: now });
        await giveClass(em, { schoolId: adult.schoolId, classId }, adult.id);
        await addChildren(em, { schoolId: adult.schoolId, classId }, wish.children, now);
      });
      await beginSignIn(c, deps, adult);
      return await meOf(c.var.em, adult, now);
    });
}
