import type { CarpetSettings, OlderWeek, SheetOfSession } from '@vane/contract';
import type {
  AnswerMode,
  ChildEstimate,
  ClassValues,
  HelpLevel,
  Outcome,
  ReadingSettings,
  ReadingWord,
  Reason,
  Support,
} from '@vane/core';
import { Adult, AdultLink, Audit, Erased, KnownDevice, School, SetUpCode, SignIn } from './adultEntities';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/**
 * Tables. `schoolId` leads every key, so that the tables can be partitioned or spread by school unchanged; keys are plain columns here and their foreign
 * keys stand in the migrations. Why no relations: docs/decisions/0019.
 */
const schoolId = p.uuid().primary();
const created = p.datetime().onCreate(() => new Date());

/** The parts of a response that can be corrected. */
export interface Correctable {
  readonly childId: string;
  readonly given: string;
  readonly outcome: Outcome;
  readonly observed: string;
  readonly void: string;
}

export const SchoolClass = defineEntity({
  name: 'SchoolClass',
  tableName: 'class',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    name: p.text(),
    createdAt: created,
    archivedAt: p.datetime().nullable(),
    /** The file it came in with. */
    importId: p.uuid().nullable(),
  },
});

/** Which adults a class is given to. */
export const ClassAdult = defineEntity({
  name: 'ClassAdult',
  properties: { schoolId, classId: p.uuid().primary(), adultId: p.uuid().primary() },
});

export const Child = defineEntity({
  name: 'Child',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    classId: p.uuid(),
    nickname: p.text(),
    createdAt: created,
    archivedAt: p.datetime().nullable(),
    importId: p.uuid().nullable(),
    /** Adjustments for the child, in codes and in the adults' words; who said so last, and when. Sensitive: docs/safety.md. */
    supports: p.json<readonly Support[]>().default([]),
    supportWords: p.text().default(''),
    supportBy: p.text().default(''),
    supportAt: p.datetime().nullable(),
    /** What is said at the door, as a teacher left it; empty = as the record has it. */
    door: p.text().default(''),
  },
});

export const Sitting = defineEntity({
  name: 'Sitting',
  properties: {
    schoolId,
    id: p.text().primary(),
    classId: p.uuid(),
    routine: p.text(),
    startedAt: p.datetime(),
    answerMode: p.text().$type<AnswerMode>(),
    settings: p.json<CarpetSettings>().nullable(),
    importId: p.uuid().nullable(),
  },
});

/** Of a response only what corrections change and what it belongs to: whole rows are read and added plainly (record/store.ts). */
export const ResponseEntity = defineEntity({
  name: 'Response',
  properties: {
    schoolId,
    id: p.text().primary(),
    classId: p.uuid(),
    childId: p.uuid(),
    sittingId: p.text(),
    fact: p.text(),
    given: p.text(),
    outcome: p.text().$type<Outcome>(),
    observed: p.text(),
    void: p.text(),
    receivedAt: p.datetime(),
  },
});

export const ReadingEntity = defineEntity({
  name: 'Reading',
  properties: {
    schoolId,
    childId: p.uuid().primary(),
    fact: p.text().primary(),
    classId: p.uuid(),
    reading: p.text().$type<ReadingWord>(),
    pAutomatic: p.double().$type<number>(),
    lean: p.double().$type<number>(),
    certainty: p.double().$type<number>(),
    responses: p.integer(),
    days: p.integer(),
    reason: p.json<Reason>(),
  },
});

/** Which responses, settings and version a child's stored readings were made from, and what is known of the child's times. */
export const Judgement = defineEntity({
  name: 'Judgement',
  properties: {
    schoolId,
    childId: p.uuid().primary(),
    classId: p.uuid(),
    fingerprint: p.text(),
    modelVersion: p.text(),
    settings: p.json<ReadingSettings>(),
    estimate: p.json<ChildEstimate>(),
    workingNumber: p.integer().nullable(),
    judgedAt: p.datetime(),
  },
});

/** What a class's children have in common, as it was learned last. */
export const ClassFit = defineEntity({
  name: 'ClassFit',
  properties: {
    schoolId,
    classId: p.uuid().primary(),
    modelVersion: p.text(),
    /** How many responses the class had then. */
    responses: p.integer(),
    values: p.json<ClassValues>(),
    fittedAt: p.datetime(),
  },
});

/** A teacher's own word on a fact, beside Vane's. Taking it back keeps it, dated. */
export const Overrule = defineEntity({
  name: 'Overrule',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    classId: p.uuid(),
    childId: p.uuid(),
    fact: p.text(),
    reading: p.text().$type<ReadingWord>(),
    reason: p.text(),
    adultId: p.uuid(),
    adultName: p.text(),
    madeAt: p.datetime(),
    removedAt: p.datetime().nullable(),
  },
});

/** A correction of a response, by whom and when; the response before and after. */
export const Correction = defineEntity({
  name: 'Correction',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    classId: p.uuid(),
    responseId: p.text(),
    what: p.text(),
    before: p.json<Correctable>(),
    after: p.json<Correctable>(),
    adultId: p.uuid(),
    adultName: p.text(),
    madeAt: p.datetime(),
  },
});

/** A note on a child or on a sitting: one of the two is named. */
export const Note = defineEntity({
  name: 'Note',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    classId: p.uuid(),
    childId: p.uuid().nullable(),
    sittingId: p.text().nullable(),
    text: p.text(),
    adultId: p.uuid(),
    adultName: p.text(),
    madeAt: p.datetime(),
  },
});

/** A child's readings as a past week left them, with the fingerprint of what they were made from. */
export const WeekReading = defineEntity({
  name: 'WeekReading',
  properties: {
    schoolId,
    childId: p.uuid().primary(),
    /** The Monday, YYYY-MM-DD. */
    week: p.date().primary(),
    classId: p.uuid(),
    fingerprint: p.text(),
    words: p.json<Record<string, ReadingWord>>(),
    workingNumber: p.integer().nullable(),
    help: p.text().$type<HelpLevel>().nullable(),
    /** What the version of the judgement before this one said of the same answers. */
    older: p.json<OlderWeek>().nullable(),
  },
});

/** A second screen of a sitting: what the adult's side wants, and what the stage's side has seen. */
export const Screen = defineEntity({
  name: 'Screen',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    classId: p.uuid(),
    codeHash: p.text().nullable(),
    tokenHash: p.text().nullable(),
    madeAt: p.datetime(),
    codeUntil: p.datetime(),
    control: p.json<object>().nullable(),
    controlSeq: p.bigint('number'),
    stage: p.json<object>().nullable(),
    stageSeq: p.bigint('number'),
  },
});

/** A sheet for a helper without a device: which children are asked what, found again by its code. */
export const GroupSheet = defineEntity({
  name: 'GroupSheet',
  properties: {
    schoolId,
    code: p.text().primary(),
    classId: p.uuid(),
    madeAt: p.datetime(),
    children: p.json<string[]>(),
    facts: p.json<string[]>(),
    /** The planned session that it is for; null = the facts are the same for all. */
    session: p.json<SheetOfSession>().nullable(),
    keyedAt: p.datetime().nullable(),
  },
});

/** A helper's link to one sheet, for one day; `adultId` made it. */
export const HelperLinkEntity = defineEntity({
  name: 'HelperLinkEntity',
  tableName: 'helper_link',
  properties: {
    schoolId,
    code: p.text().primary(),
    classId: p.uuid(),
    tokenHash: p.text(),
    adultId: p.uuid(),
    madeAt: p.datetime(),
    until: p.datetime(),
  },
});

/** What came in as a file, by whom and when, so that it can be taken back. */
export const Import = defineEntity({
  name: 'Import',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    classId: p.uuid().nullable(),
    madeAt: p.datetime(),
    adultName: p.text(),
    what: p.text(),
    added: p.integer(),
  },
});

/** Work on a class that failed for good: kept until it succeeds. */
export const FailedWork = defineEntity({
  name: 'FailedWork',
  properties: {
    schoolId,
    classId: p.uuid().primary(),
    what: p.text().primary().$type<'judge' | 'weeks'>(),
    failedAt: p.datetime(),
  },
});

/** A setting of a class, by its name: `carpet`, `day-plan`, `week-settings`. */
export const Setting = defineEntity({
  name: 'Setting',
  properties: { schoolId, classId: p.uuid().primary(), name: p.text().primary(), value: p.json<unknown>() },
});

export { Adult, AdultLink, Audit, Erased, KnownDevice, School, SetUpCode, SignIn };

export const ENTITIES = [
  School,
  Adult,
  SignIn,
  AdultLink,
  KnownDevice,
  SetUpCode,
  Erased,
  SchoolClass,
  ClassAdult,
  Child,
  Sitting,
  ResponseEntity,
  ReadingEntity,
  Judgement,
  ClassFit,
  Overrule,
  Correction,
  Note,
  WeekReading,
  Audit,
  Screen,
  GroupSheet,
  HelperLinkEntity,
  Import,
  FailedWork,
  Setting,
];

export type ResponseRowEntity = InferEntity<typeof ResponseEntity>;
