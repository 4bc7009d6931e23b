import { signal } from '@angular/core';
import type { ControlState, StageCommand, StageNews, StageState } from '@vane/contract';
import type { Board, Picture } from '@vane/core';
import type { Stage, StageListener, StageShow } from '../measurement/stageRunner';
import { across, withinOf, type ClockMatch } from './clock';
import type { LinkState } from './link';

type Look = ControlState['look'];

/** What the sitting hears from the far stage beyond what a near one tells. */
interface FarListener extends StageListener {
  /** The child pressed, there: a number, a choice, a cut. */
  pressed(given: string, at: number): void;
  /** The child is ready for the next question, or has finished building. */
  went(at: number): void;
  lost(): void;
  /** The screen was joined: somebody is there to see. */
  joined(): void;
}

/** Longer without a word from the stage and the adult is told. */
const SILENT_MS = 9000;

/**
 * The stage on another screen, as the sitting sees it: what the sitting wants becomes the newest state for that screen, and what happened there is told to the
 * sitting, each thing once. Times are carried from one clock to the other.
 */
export class OtherStage implements Stage {
  #control: ControlState;
  #told = 0;
  #asking = false;
  #heardAt: number | null = null;
  /** While the sitting answers to a press that came from the stage, its time is the stage's own. */
  #relayed = false;
  /** Within how much the time of the last press is right, where an adult pressed. */
  #within = 0;
  #stage: StageState | null = null;
  readonly #link = signal<LinkState>('waiting');
  readonly link = this.#link.asReadonly();

  constructor(
    private readonly tell: (state: ControlState) => void,
    private readonly listener: FarListener,
    private readonly clock: () => ClockMatch | null,
    private readonly now: () => number,
    look: Look,
  ) {
    this.#control = { trial: 0, show: null, commands: [], look };
  }

  get here(): boolean {
    return this.#heardAt !== null;
  }
  get asking(): boolean {
    return this.#asking;
  }
  get board(): Board | null {
    return this.#stage?.trial === this.#control.trial ? this.#stage.board : null;
  }

  begin(show: StageShow): void {
    this.#asking = false;
    this.#told = 0;
    this.#within = 0;
    this.#set({ trial: this.#control.trial + 1, show, commands: [] });
  }
  stop(at: number): void {
    this.#command({ do: 'stop', at: this.#there(at) });
  }
  answer(given: string, at: number): void {
    this.#command({ do: 'answer', given, at: this.#there(at) });
  }
  noAnswer(): void {
    this.#command({ do: 'no-answer' });
  }
  disturbed(why: 'hidden' | 'blurred' | 'paused'): void {
    // This page's own window has no part in the measurement.
    if (why === 'paused') this.#command({ do: 'disturbed', why });
  }
  takeBack(): void {
    this.#asking = true;
    this.#command({ do: 'take-back' });
  }
  lay(picture: Picture): void {
    this.#command({ do: 'lay', picture });
  }
  abandon(): void {
    this.#asking = false;
    this.#command({ do: 'abandon' });
  }

  /** The link stands: the first state goes out. */
  begun(): void {
    this.tell(this.#control);
  }

  /** What the child's screen has to know beside the show. */
  look(look: Look): void {
    if (JSON.stringify(look) !== JSON.stringify(this.#control.look)) this.#set({ look });
  }

  /** Looks whether the stage has been silent for too long. */
  check(): void {
    if (this.#heardAt !== null) this.#link.set(this.now() - this.#heardAt > SILENT_MS ? 'silent' : 'there');
  }

  heard(state: StageState): void {
    const first = this.#heardAt === null;
    this.#heardAt = this.now();
    if (first) this.listener.joined();
    this.#link.set('there');
    if (state.page !== this.#stage?.page) this.#told = 0;
    this.#stage = state;
    if (state.trial !== this.#control.trial) return;
    const news = state.news.slice(this.#told);
    this.#told = state.news.length;
    for (const one of news) this.#hear(one);
  }

  #hear(news: StageNews): void {
    switch (news.news) {
      case 'shown':
        this.#asking = true;
        return;
      case 'stopped':
        return this.listener.stopped();
      case 'answered':
        this.#asking = false;
        return this.listener.answered(news.given, news.result, news.shownAt, this.#within);
      case 'lost':
        this.#asking = false;
        return this.listener.lost();
      case 'press':
      case 'go':
        this.#relayed = true;
        if (news.news === 'go') this.listener.went(news.at);
        else this.listener.pressed(news.given, news.at);
        this.#relayed = false;
    }
  }

  /** A press here, on the stage's clock. Without a match of both clocks its time is not known: it counts from when it is heard there. */
  #there(at: number): number {
    if (this.#relayed) return at;
    const [own, stage] = [this.clock(), this.#stage?.clock ?? null];
    if (own === null || stage === null) return -1;
    this.#within = withinOf(own, stage);
    return across(at, own, stage);
  }

  #command(command: StageCommand): void {
    this.#set({ commands: [...this.#control.commands, command] });
  }
  #set(change: Partial<ControlState>): void {
    this.#control = { ...this.#control, ...change };
    this.tell(this.#control);
  }
}
