import { InjectionToken } from '@angular/core';

/** A device of eleven buttons, 0 to 10, in front of the child. `heard`: which one, and when by the page's clock. */
export interface Pad {
  readonly name: string;
  readonly simulated: boolean;
  start(heard: (n: number, at: number) => void): () => void;
}

const BUTTONS = 11;

/** Controllers the browser sees, polled with every frame: button 0 is zero, and so on to ten. The browser stamps a press when it learns of it. */
export class ControllerPad implements Pad {
  readonly simulated = false;

  constructor(
    readonly name: string,
    private readonly read: () => readonly (Gamepad | null)[],
  ) {}

  start(heard: (n: number, at: number) => void): () => void {
    let down = new Set<string>();
    let frame = 0;
    const look = (now: number): void => {
      const pressed = new Set<string>();
      for (const pad of this.read()) {
        pad?.buttons.slice(0, BUTTONS).forEach((button, n) => {
          if (!button.pressed) return;
          const name = `${pad.index} ${n}`;
          pressed.add(name);
          if (!down.has(name)) heard(n, pad.timestamp > 0 ? Math.min(pad.timestamp, now) : now);
        });
      }
      down = pressed;
      frame = requestAnimationFrame(look);
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }
}

/** A cheap wireless pad: a press arrives some twenty milliseconds late and is asked for every sixteen (typical of keyboards without a wire; not measured on one). */
const ON_ITS_WAY_MS = 22;
const ASKED_FOR_MS = 16;

/** The pad that ships with Vane: its buttons stand on the screen, and a press arrives as late, and as unevenly late, as from a real one. */
export class SimulatedPad implements Pad {
  readonly name = $localize`simulated pad`;
  readonly simulated = true;
  #heard: ((n: number, at: number) => void) | null = null;

  constructor(private readonly random: () => number = Math.random) {}

  start(heard: (n: number, at: number) => void): () => void {
    this.#heard = heard;
    return () => (this.#heard = null);
  }
  /** A finger comes down on a button. */
  press(n: number, at: number): void {
    const late = ON_ITS_WAY_MS + ASKED_FOR_MS * this.random();
    setTimeout(() => this.#heard?.(n, at + late), late);
  }
}

/** Controllers of this browser that have enough buttons. */
export const CONTROLLERS = new InjectionToken<() => readonly (Gamepad | null)[]>('controllers', {
  providedIn: 'root',
  factory: () => () => ('getGamepads' in navigator ? navigator.getGamepads() : []),
});
export const enough = (pads: readonly (Gamepad | null)[]): Gamepad | null =>
  pads.find((pad) => pad !== null && pad.buttons.length >= BUTTONS) ?? null;
