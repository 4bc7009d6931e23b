import { DEFAULT_CARPET, type CarpetSettings, type RecordRow, type SittingRow } from '@vane/contract';
import { dealTurns, parseFact, makeAsk, type Ask, type Picture } from '@vane/core';
import { PlayedFrames } from './playedFrames';
import { StageRunner } from '../carpet/measurement/stageRunner';
import type { Keeper } from '../carpet/sitting/recorder';
import type { Wait } from '../carpet/sitting/ready';
import { Sitting } from '../carpet/sitting/sitting';
import type { SittingWish } from '../carpet/sitting/sittingWish';

export const SETTINGS: CarpetSettings = { ...DEFAULT_CARPET, exposureMs: 500, shows: 5 };

/** Questions as the flash routine would put them. */
export const asked = (fact: string): Ask => {
  const { kind, answer } = parseFact(fact);
  const flash = kind === 'show';
  const picture: Picture = fact.endsWith(':dice')
    ? { show: 'spots', layout: 'dice', count: answer }
    : flash
      ? { show: 'frame', layout: fact.endsWith('five') ? 'five' : 'frame-fives', count: answer, direction: 'rows' }
      : { show: 'numeral', n: answer };
  const more: Partial<Ask> = {
    flash,
    warmUp: !flash,
    after: flash ? { say: 'follow-up', n: answer } : { say: 'thanks' },
  };
  return makeAsk(fact, picture, { say: flash ? 'how-many-seen' : 'copy' }, more);
};

/** A keeper that remembers every state it was given, in order. */
export class Memory implements Keeper {
  readonly states: RecordRow[] = [];
  readonly sittings: SittingRow[] = [];
  closed = 0;
  held = false;
  fails = false;
  keepSitting(_: string, row: SittingRow): Promise<void> {
    this.sittings.push(row);
    return Promise.resolve();
  }
  keepOpen(_: string, row: RecordRow): Promise<void> {
    if (this.fails) return Promise.reject(new Error('no room'));
    this.states.push(row);
    return Promise.resolve();
  }
  stillOpen: readonly string[] = [];
  closeAll(except: readonly string[] = []): Promise<void> {
    this.closed++;
    this.stillOpen = except;
    return Promise.resolve();
  }
  hold(): void {
    this.held = true;
  }
  release(): void {
    this.held = false;
  }
  /** The last state of each response, in the order in which they began. */
  last(): RecordRow[] {
    return [...new Map(this.states.map((row) => [row.response_id, row])).values()];
  }
}

/** The first show is by hand; after that every ready is over at once. */
export const atOnce = (): Wait => {
  let readies = 0;
  return (_, then) => {
    if (readies++ > 0) then();
    return () => undefined;
  };
};

/** A sitting on frames advanced by the test, at a display rate in frames per second. */
export function playSitting(
  asks: readonly Ask[],
  settings: Partial<CarpetSettings> = {},
  wish: Partial<SittingWish> = {},
  hz = 60,
  wait = atOnce(),
) {
  const keeper = new Memory();
  const frames = new PlayedFrames(1000 / hz);
  const stage = document.createElement('div');
  const children = wish.children ?? [{ id: 'child', nickname: 'Odo' }];
  const usual: SittingWish = {
    classId: 'class',
    children,
    classmates: children,
    settings: { ...SETTINGS, ...settings },
    turns: dealTurns(children.map(({ id }) => ({ child: id, asks }))),
    follow: () => [],
    choral: false,
    open: false,
    shared: false,
  };
  const sitting = new Sitting({ ...usual, ...wish }, keeper, () => Date.parse('2026-11-25T09:00:00Z'), wait);
  sitting.attach(new StageRunner(stage, frames, sitting, 0));
  const shown = () => frames.until(() => stage.dataset['phase'] === 'show');
  return { sitting, keeper, frames, stage, shown };
}
export const written = () => new Promise((done) => setTimeout(done));
