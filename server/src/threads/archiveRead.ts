import type { ClassArchive, Problem } from '@vane/contract';

/** A class's archive as a thread reads it: its answers as texts of some hundred rows each, so that they come out of the thread, and into the database, without holding anything up. */
export interface OpenedArchive {
  readonly archive: Omit<ClassArchive, 'responses'>;
  readonly responses: readonly string[];
}

/** What a thread says of an archive: an error's kind would not survive the way back. */
export type ArchiveRead = OpenedArchive | { readonly refused: Pick<Problem, 'detail' | 'places'> };
