import type { Language } from '@vane/core';
import type { ClassKey, Which } from '../db/keys';

/** PostgreSQL's schema for work: no part of the record, and of no backup. */
export const JOBS_SCHEMA = 'vane_jobs';

/** A letter that is to be sent: which, and in which language, but not what it says, as that opens an account. */
export interface LetterWish {
  readonly schoolId: string;
  readonly linkId: string;
  readonly language: Language;
  /** The adult who invites; null = nobody does. */
  readonly by: string | null;
  /** Vane's address by which it was asked for; none in what an earlier version asked for. */
  readonly home?: string;
}

/** What any server may be asked to do, and what each kind of work is told. */
export interface JobData {
  /** Makes the readings of a class current. */
  readonly judge: ClassKey;
  /** Judges past weeks of a class, or of one child, that are behind. */
  readonly weeks: Which;
  readonly letter: LetterWish;
  /** Deletes what has had its time. */
  readonly trim: object;
  /** Runs ANALYZE on partitioned parents; autovacuum covers only the partitions. */
  readonly count: object;
  /** Makes the backup of the day, where it is not there yet. */
  readonly backup: object;
}
export type JobName = keyof JobData;

/** Work on a class that waits or is being done. */
export interface WorkUnderWay {
  readonly classId: string;
  readonly what: 'judge' | 'weeks';
  readonly state: 'waiting' | 'under-way';
  readonly since: Date;
}

/** Work that any server can take. Work that is asked for again before it has begun is done once. */
export interface Jobs {
  /** Notes what is to be done, and does not wait for it. A database that is away gets it when it is back. */
  ask<K extends JobName>(name: K, data: JobData[K], afterMs?: number): void;
  /** Work on the classes of a school, the oldest first. */
  ofSchool(schoolId: string): Promise<readonly WorkUnderWay[]>;
}

/** Work of which one piece at most waits: that of a class, of one child, or a letter. */
export const keyOf = (data: Partial<Which & LetterWish>): string =>
  [data.schoolId, data.classId, data.childId, data.linkId].filter((part) => part !== undefined).join('/');
