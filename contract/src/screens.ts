import type { AnswerMode, Ask, Board, Counters, Measured, Options, Picture } from '@vane/core';
import * as z from 'zod';
import { at, id } from './judged';
import { line } from './text';
import type { Told } from './told';

/**
 * Two screens of one sitting: the adult's, which holds the sitting, and the stage's, which shows and measures. Each side writes its whole state; the other reads
 * the newest. A state that comes twice or late changes nothing, so a link may break and come back at any moment.
 */
export const pairRequest = z.object({ code: line(20).min(1) });

/** A screen that was just opened, and how another device joins it. */
export const openedScreen = z.strictObject({
  id,
  code: z.string(),
  until: at,
  /** Where to, and the same as a QR code (SVG) with the code in it; null where this Vane is reached on its own machine alone. */
  join: z.strictObject({ address: z.url(), qr: z.string() }).nullable(),
});
export type OpenedScreen = Told<z.infer<typeof openedScreen>>;

/** Either side's state, numbered by its writer. What is in it concerns the two screens alone; the server hands it on. */
export const screenState = z.object({
  seq: z.number().int().min(1).max(Number.MAX_SAFE_INTEGER),
  state: z.record(z.string(), z.unknown()),
});
export type ScreenState<T> = { readonly seq: number; readonly state: T };

/** What the adult's screen wants done in the trial that is on, in order. Times are on the stage's clock. */
export type StageCommand =
  | { readonly do: 'stop'; readonly at: number }
  | { readonly do: 'answer'; readonly given: string; readonly at: number }
  | { readonly do: 'no-answer' }
  | { readonly do: 'disturbed'; readonly why: 'hidden' | 'blurred' | 'paused' }
  | { readonly do: 'take-back' }
  | { readonly do: 'lay'; readonly picture: Picture }
  | { readonly do: 'abandon' };

export interface FarShow {
  readonly ask: Ask;
  readonly exposureMs: number | null;
  readonly answerMode: AnswerMode;
}

export type ControlState = {
  /** Grows with every show; 0 = nothing was shown yet. */
  readonly trial: number;
  readonly show: FarShow | null;
  readonly commands: readonly StageCommand[];
  /** What else the child's screen has to know. */
  readonly look: {
    readonly moment: 'ready' | 'asking' | 'stopped' | 'answered' | 'done';
    readonly given: string | null;
    readonly firstPart: string | null;
    readonly paused: boolean;
    /** The child answers alone: it shows the next itself. */
    readonly alone: boolean;
    /** Pictures as large as they can be. */
    readonly larger: boolean;
    readonly choral: boolean;
    readonly options: Options;
    readonly counters: Counters;
  };
};

/** What happened on the stage in the trial that is on, in order. Times are on the stage's clock. */
export type StageNews =
  | { readonly news: 'shown' }
  | { readonly news: 'stopped' }
  | { readonly news: 'answered'; readonly given: string; readonly result: Measured; readonly shownAt: number }
  | { readonly news: 'press'; readonly given: string; readonly at: number }
  | { readonly news: 'go'; readonly at: number }
  /** The page was opened anew in the middle of the trial: what it measured is gone. */
  | { readonly news: 'lost' };

export type StageState = {
  /** Which opening of the page writes this: one that was opened anew begins its news anew. */
  readonly page: string;
  readonly trial: number;
  readonly news: readonly StageNews[];
  /** What the child has built so far. */
  readonly board: Board | null;
  /** Offset from the stage's clock to the server's and its uncertainty; null = not matched yet. Milliseconds. */
  readonly clock: { readonly offset: number; readonly within: number } | null;
};
