import { toResponse, type CarpetSettings, type PrintRequest } from '@vane/contract';
import {
  carpetSheet,
  classHandOver,
  evening,
  groupSheet,
  handOver,
  homeSheet,
  numberToPlan,
  placeOf,
  placeOfNeed,
  plannedFor,
  plannedChildren,
  workingNumber,
  type Block,
  type Catalogue,
  type Need,
  type Place,
  type PrintName,
  type Reading,
} from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { childrenOf } from '../classes/classRoutes';
import { supportLines } from '../classes/support';
import { Child, GroupSheet, SchoolClass } from '../db/entities';
import type { ClassKey } from '../db/keys';
import { timeZoneOf } from '../db/timeZone';
import { lastAsked } from '../judging/readingRoutes';
import { overrulesOf } from '../judging/overruleRoutes';
import type { Readings } from '../judging/readings';
import { RequestProblem } from '../problems/problem';

/** What a print of words is made from: the class, the wish, the class's words and options, and the words of who prints. */
export interface Making {
  readonly em: EntityManager;
  readonly key: ClassKey;
  readonly wish: PrintRequest;
  readonly ways: CarpetSettings & { readonly say: Catalogue };
  readonly readings: Readings;
  readonly now: Date;
}

interface Words {
  readonly title: string;
  readonly blocks: Block[];
}

/** A print that is words about somebody; the others are drawn. */
interface WordPrint {
  readonly words: (making: Making) => Promise<Words>;
  /** The page lies on its side. */
  readonly lying?: true;
  /** What the school's activity says that it was about; null = it has no words about anybody, and is not written down. */
  readonly about: 'child' | 'class' | null;
}

/** A moment as a day of the school's calendar. */
async function datesOf({ em, key, ways }: Making): Promise<(at: Date | number) => string> {
  const timeZone = await timeZoneOf(em, key.schoolId);
  const days = new Intl.DateTimeFormat(ways.say.language, { dateStyle: 'long', timeZone });
  return (at) => days.format(at);
}

/** What the plan has for every child of the class: the same as Today, Class and the children's pages say. */
async function planOf({ em, key, readings, now }: Making) {
  const kept = await childrenOf(em, key, now);
  const { readings: judged } = await readings.current(key);
  const all = plannedChildren(
    kept.map((one) => ({ ...one, lastAskedAt: one.lastAskedAt === null ? null : Date.parse(one.lastAskedAt) })),
    judged,
    await lastAsked(em, key),
  );
  const timeZone = await timeZoneOf(em, key.schoolId);
  const needs = plannedFor({ children: all, now: now.getTime(), timeZone, aim: 'practise' });
  return { all, plan: new Map(needs.map((one) => [one.child, one])) };
}

const className = async ({ em, key }: Making): Promise<string> =>
  (await em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId })).name;

/** The child of a print, and what is known of it. */
async function childOf(making: Making) {
  const { em, key, wish, ways, readings } = making;
  const child = wish.child === null ? null : await em.findOne(Child, { ...key, id: wish.child });
  if (!child) throw new RequestProblem('not-found');
  const { rows, judgement } = await readings.childAt(key, child.id, null);
  const support = wish.support ? supportLines(child, ways.say.pages.supports) : [];
  return { child, nickname: child.nickname, rows, own: judgement?.readings ?? [], support };
}

/** What the plan has for a child next, and where they stand with it; where nothing is planned, as for a child who is archived, what their own number asks for. */
async function nextOf(making: Making, child: string, own: readonly Reading[]): Promise<{ need: Need; place: Place }> {
  const { plan } = await planOf(making);
  const need = plan.get(child)?.need ?? { need: 'pairs', whole: numberToPlan(placeOf(own)) };
  return { need, place: placeOfNeed(own, need) };
}

async function homeSheetWords(making: Making): Promise<Words> {
  const { child, nickname, own } = await childOf(making);
  const { place } = await nextOf(making, child.id, own);
  const { ways, wish } = making;
  const { say, words, options } = ways;
  return {
    title: `${nickname}: ${say.prints.names['home-sheet'].title}`,
    blocks: homeSheet({
      nickname,
      number: numberToPlan(place),
      words,
      direction: options.direction,
      ink: wish.ink,
      say,
    }),
  };
}

async function eveningWords(making: Making): Promise<Words> {
  const { child, nickname, own, support } = await childOf(making);
  const { say, words } = making.ways;
  const { need, place } = await nextOf(making, child.id, own);
  const today = (await datesOf(making))(making.now);
  return {
    title: say.prints.evening.title(nickname, today),
    blocks: evening({
      nickname,
      today,
      help: place.help,
      need,
      readings: own,
      door: child.door,
      support,
      words,
      say,
    }),
  };
}

async function handOverWords(making: Making): Promise<Words> {
  const { child, nickname, rows, own, support } = await childOf(making);
  const { say } = making.ways;
  const dated = await datesOf(making);
  const overrules = (await overrulesOf(making.em, making.key, child.id)).map((o) => ({
    ...o,
    date: dated(new Date(o.madeAt)),
  }));
  return {
    title: say.prints.handOver.title(nickname),
    blocks: handOver({
      nickname,
      today: dated(making.now),
      number: workingNumber(own),
      readings: own,
      overrules,
      support,
      responses: rows.map(toResponse),
      dated,
      say,
    }),
  };
}

async function classHandOverWords(making: Making): Promise<Words> {
  const { em, key, wish, ways } = making;
  const { say, words } = ways;
  const name = await className(making);
  const kept = await em.find(Child, { ...key, archivedAt: null }, { orderBy: { nickname: 'asc' } });
  const { plan, all } = await planOf(making);
  const dated = await datesOf(making);
  const children = kept.map((child) => {
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
    blocks: classHandOver({ className: name, today: dated(making.now), children, words, say }),
  };
}

async function groupSheetWords(making: Making): Promise<Words> {
  const { em, key, wish, ways } = making;
  const { say, words } = ways;
  const sheet = wish.sheet === null ? null : await em.findOne(GroupSheet, { ...key, code: wish.sheet });
  if (!sheet) throw new RequestProblem('not-found');
  const name = await className(making);
  const children = await em.find(Child, { ...key, id: { $in: sheet.children } });
  const here = sheet.children.flatMap((id) => children.find((c) => c.id === id) ?? []);
  const common = { code: sheet.code, className: name, today: (await datesOf(making))(sheet.madeAt), say };
  const { session, facts } = sheet;
  const asked = here.map(({ id, nickname, supports }) => ({
    nickname,
    asks: session?.asked[id] ?? [],
    still: supports.includes('no-flash'),
  }));
  return {
    title: say.prints.group.title(name, sheet.code),
    blocks: session
      ? carpetSheet({ ...common, session, words, children: asked })
      : groupSheet({ ...common, nicknames: here.map(({ nickname }) => nickname), facts }),
  };
}

export const WORD_PRINTS: Partial<Record<PrintName, WordPrint>> = {
  'home-sheet': { words: homeSheetWords, about: 'child' },
  evening: { words: eveningWords, about: 'child' },
  'hand-over': { words: handOverWords, about: 'child' },
  'class-hand-over': { words: classHandOverWords, about: 'class' },
  'group-sheet': { words: groupSheetWords, about: null, lying: true },
};
