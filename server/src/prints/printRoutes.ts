import { toResponse, type CarpetSettings, type GroupSheetView, type PrintRequest } from '@vane/contract';
import {
  cardsOf,
  carpetSheet,
  classHandOver,
  drawnPages,
  evening,
  groupSheet,
  handOver,
  homeSheet,
  placeOf,
  planClass,
  plannedChildren,
  PRINTS,
  QUESTIONS,
  svgCard,
  workingNumber,
  type Block,
  type Card,
  type Catalogue,
  type PrintName,
} from '@vane/core';
import type { InferEntity } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { strToU8, zipSync } from 'fflate';
import { isDeepStrictEqual } from 'node:util';
import { audit } from '../request/audit';
import type { ClassKey } from '../db/keys';
import { dayStarts, timeZoneOf } from '../db/timeZone';
import { carpetOf, childrenOf } from '../classes/classRoutes';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { Child, GroupSheet, HelperLinkEntity, SchoolClass } from '../db/entities';
import { supportLines } from '../classes/support';
import { lastAsked } from '../judging/readingRoutes';
import { overrulesOf } from '../judging/overruleRoutes';
import type { Readings } from '../judging/readings';
import { RequestProblem } from '../problems/problem';
import { newCode } from '../adults/tokens';
import { sayFor } from '../words/sayFor';
import type { Print } from '../threads/pdf';

/** As many cards as anybody cuts out; more than that is a mistake, and would keep the printer's thread for minutes. */
const MOST_CARDS = 300;

/** A moment as a day of the school's calendar. */
const datedBy = ({ language }: Catalogue, timeZone: string): ((at: Date | number) => string) => {
  const days = new Intl.DateTimeFormat(language, { dateStyle: 'long', timeZone });
  return (at) => days.format(at);
};

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

/** Prints that are words about somebody; the others are drawn. */
const WORDS_OF: Partial<Record<PrintName, 'sheet' | 'child' | 'class'>> = {
  'home-sheet': 'child',
  evening: 'child',
  'hand-over': 'child',
  'class-hand-over': 'class',
  'group-sheet': 'sheet',
};

/** The class's words and options, and the words of who prints. */
type Ways = CarpetSettings & { readonly say: Catalogue };

/** The cards of a print, as long as they are not too many. */
function deckOf(wish: PrintRequest, ways: Ways): Card[] {
  const cards = cardsOf(wish, ways);
  if (cards.length > MOST_CARDS)
    throw new RequestProblem('too-many-cards', { detail: `${MOST_CARDS} cards at a time` });
  return cards;
}

/** What is printed for a class: cards, mats and sheets; the home sheet and the hand-over of a child; sheets for helpers, and their keying in. */
export function printRoutes(deps: Deps, readings: Readings): ContractRoutes {
  /** What the plan has for every child of the class: the same as Today, Class and the children's pages say. */
  async function planOf(em: EntityManager, key: ClassKey) {
    const kept = await childrenOf(em, key, deps.now());
    const { readings: judged } = await readings.current(key);
    const all = plannedChildren(
      kept.map((one) => ({ ...one, lastAskedAt: one.lastAskedAt === null ? null : Date.parse(one.lastAskedAt) })),
      judged,
      await lastAsked(em, key),
    );
    const timeZone = await timeZoneOf(em, key.schoolId);
    const sessions = planClass({
      children: all,
      now: deps.now().getTime(),
      timeZone,
      aim: 'practise',
      count: QUESTIONS,
    });
    return { all, plan: new Map(sessions.flatMap(({ children }) => children.map((one) => [one.child, one] as const))) };
  }

  async function aboutChild(
    em: EntityManager,
    key: ClassKey,
    wish: PrintRequest,
    ways: Ways,
  ): Promise<{ title: string; blocks: Block[] }> {
    const child = wish.child === null ? null : await em.findOne(Child, { ...key, id: wish.child });
    if (!child) throw new RequestProblem('not-found');
    const { rows, judgement } = await readings.childAt(key, child.id, null);
    const own = judgement?.readings ?? [];
    const number = workingNumber(own);
    const { nickname } = child;
    const { say } = ways;
    const dated = datedBy(say, await timeZoneOf(em, key.schoolId));
    if (wish.what === 'home-sheet')
      return {
        title: `${nickname}: ${say.prints.names['home-sheet'].title}`,
        blocks: homeSheet({
          nickname,
          number,
          words: ways.words,
          direction: ways.options.direction,
          ink: wish.ink,
          say,
        }),
      };
    const support = wish.support ? supportLines(child, say.pages.supports) : [];
    if (wish.what === 'evening') {
      const place = placeOf(own);
      const { plan } = await planOf(em, key);
      const { need } = plan.get(child.id) ?? { need: { need: 'begin' as const } };
      const today = dated(deps.now());
      return {
        title: say.prints.evening.title(nickname, today),
        blocks: evening({
          nickname,
          today,
          place,
          need,
          readings: own,
          door: child.door,
          support,
          words: ways.words,
          say,
        }),
      };
    }
    const overrules = (await overrulesOf(em, key, child.id)).map((o) => ({ ...o, date: dated(new Date(o.madeAt)) }));
    const blocks = handOver({
      nickname,
      today: dated(deps.now()),
      number,
      readings: own,
      overrules,
      support,
      responses: rows.map(toResponse),
      dated,
      say,
    });
    return { title: say.prints.handOver.title(nickname), blocks };
  }

  async function aboutClass(
    em: EntityManager,
    key: ClassKey,
    wish: PrintRequest,
    { say, words }: Ways,
  ): Promise<{ title: string; blocks: Block[] }> {
    const { name } = await em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
    const children = await em.find(Child, { ...key, archivedAt: null }, { orderBy: { nickname: 'asc' } });
    const { plan, all } = await planOf(em, key);
    const dated = datedBy(say, await timeZoneOf(em, key.schoolId));
    const handedOver = children.map((child) => {
      const { readings: own = [], lastAskedAt: at = null } = all.find((one) => one.child === child.id) ?? {};
      return {
        nickname: child.nickname,
        place: placeOf(own),
        need: plan.get(child.id)?.need ?? ({ need: 'begin' } as const),
        readings: own,
        support: wish.support ? supportLines(child, say.pages.supports) : [],
        lastAsked: at === null ? null : dated(at),
      };
    });
    return {
      title: say.prints.classHandOver.title(name),
      blocks: classHandOver({ className: name, today: dated(deps.now()), children: handedOver, words, say }),
    };
  }

  async function sheetBlocks(
    em: EntityManager,
    key: ClassKey,
    code: string | null,
    { say, words }: Ways,
  ): Promise<{ title: string; blocks: Block[] }> {
    const sheet = code === null ? null : await em.findOne(GroupSheet, { ...key, code });
    if (!sheet) throw new RequestProblem('not-found');
    const { name } = await em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
    const children = await em.find(Child, { ...key, id: { $in: sheet.children } });
    const here = sheet.children.flatMap((id) => children.find((c) => c.id === id) ?? []);
    const today = datedBy(say, await timeZoneOf(em, key.schoolId))(sheet.madeAt);
    const common = { code: sheet.code, className: name, today, say };
    const { session } = sheet;
    return {
      title: say.prints.group.title(name, sheet.code),
      blocks: session
        ? carpetSheet({
            ...common,
            session,
            words,
            children: here.map(({ id, nickname, supports }) => ({
              nickname,
              asks: session.asked[id] ?? [],
              still: supports.includes('no-flash'),
            })),
          })
        : groupSheet({ ...common, nicknames: here.map(({ nickname }) => nickname), facts: sheet.facts }),
    };
  }

  return new ContractRoutes()
    .on('POST /classes/:classId/prints', async (c, { body }) => {
      const key = c.var.classKey;
      const { em } = c.var;
      const wish = body;
      const say = sayFor(c);
      const ways = { ...(await carpetOf(em, key)), say };
      const entry = PRINTS[wish.what];
      const common = {
        paper: wish.paper,
        foot: entry.caution === null ? '' : say.cautions[entry.caution],
        care: { words: say.prints.sheet.care, link: `${c.var.homeUrl}/before-use` },
      };
      let print: Print;
      const ofWords = WORDS_OF[wish.what];
      if (ofWords) {
        const reader = await deps.database.readers.em();
        const { title, blocks } = await {
          sheet: () => sheetBlocks(reader, key, wish.sheet, ways),
          child: () => aboutChild(reader, key, wish, ways),
          class: () => aboutClass(reader, key, wish, ways),
        }[ofWords]();
        print = { ...common, title, lying: wish.what === 'group-sheet', body: { blocks } };
        if (wish.what !== 'group-sheet')
          await audit(
            em,
            c.var.adult,
            deps.now(),
            'exported',
            `printed: ${wish.what}${wish.support ? ', with support' : ''}`,
            wish.what === 'class-hand-over' ? null : wish.child,
          );
      } else {
        deckOf(wish, ways);
        const pages = drawnPages(wish, ways);
        if (pages.length === 0) throw new RequestProblem('nothing-to-print');
        print = { ...common, title: say.prints.names[wish.what].title, lying: wish.what === 'mats', body: { pages } };
      }
      const pdf = await deps.printer(print);
      return c.body(pdf as Uint8Array<ArrayBuffer>, 200, { 'content-type': 'application/pdf' });
    })
    .on('POST /classes/:classId/cards.zip', async (c, { body }) => {
      const carpet = await carpetOf(c.var.em, c.var.classKey);
      const ways = { ...carpet, say: sayFor(c) };
      const cards = deckOf(body, ways);
      if (cards.length === 0) throw new RequestProblem('nothing-to-print');
      const files = cards.flatMap(({ name, front, back }): [string, Uint8Array][] => [
        [`${name}.svg`, strToU8(svgCard(front))],
        [`${name}-back.svg`, strToU8(svgCard(back))],
      ]);
      return c.body(zipSync(Object.fromEntries<Uint8Array>(files)), 200, { 'content-type': 'application/zip' });
    })
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
}
