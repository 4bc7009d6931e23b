import { DestroyRef, Injectable, inject, signal } from '@angular/core';
import type { Sitting } from '../sitting/sitting';
import { ControllerPad, CONTROLLERS, enough, SimulatedPad, type Pad } from './pads';
import { VOICES, type SimulatedVoice, type VoiceKey } from './voice';

/** The answer pad or the voice key of the running sitting: which one, and what it hears, handed on as if it were pressed here. */
@Injectable()
export class Devices {
  readonly #controllers = inject(CONTROLLERS);
  readonly #voices = inject(VOICES);
  #sitting: Sitting | null = null;
  #stop: () => void = () => undefined;

  readonly pad = signal<Pad | null>(null);
  readonly voice = signal<VoiceKey | null>(null);
  readonly trouble = signal('');

  constructor() {
    inject(DestroyRef).onDestroy(() => this.#close());
  }

  /** Begins with a sitting: a controller where there is one, else the simulated pad. A voice key is chosen by hand: a microphone is never opened unasked. */
  attach(sitting: Sitting): void {
    this.#close();
    this.#sitting = sitting;
    if (sitting.wish.settings.answerMode !== 'pad') return;
    const controller = enough(this.#controllers());
    this.usePad(controller ? new ControllerPad(controller.id, this.#controllers) : new SimulatedPad());
  }
  usePad(pad: Pad): void {
    this.#stop();
    this.pad.set(pad);
    // A question that is built or cut is answered on the frame, whatever lies beside it.
    this.#stop = pad.start((n, at) => {
      if (this.#sitting?.mode() === 'pad') this.#sitting.mark(n, at);
    });
  }
  /** Looks again for a controller: browsers show one only after a button of it was pressed. */
  lookForController(): void {
    const controller = enough(this.#controllers());
    if (controller) this.usePad(new ControllerPad(controller.id, this.#controllers));
    this.trouble.set(
      controller
        ? ''
        : $localize`No controller with eleven buttons was found. Press one of its buttons and look again.`,
    );
  }
  pressSimulated(n: number, at: number): void {
    const pad = this.pad();
    if (pad instanceof SimulatedPad) pad.press(n, at);
  }

  useVoice(which: 'microphone' | 'simulated'): void {
    this.trouble.set('');
    void this.voice()?.close();
    this.voice.set(null);
    this.#voices[which]((at) => this.#spoke(at)).then(
      (voice) => {
        this.voice.set(voice);
        this.listen();
      },
      (error: unknown) =>
        this.trouble.set(
          $localize`The voice key is not available: ${error instanceof Error ? error.message : String(error)} Space stops the clock as before.`,
        ),
    );
  }
  /** Waits for the next voice, while an answer is awaited. */
  listen(): void {
    if (this.#sitting?.moment() === 'asking') this.voice()?.listen();
  }
  say(n: number): void {
    const voice = this.voice();
    if (voice?.simulated) (voice as SimulatedVoice).say(n);
  }

  #spoke(at: number): void {
    const sitting = this.#sitting;
    if (sitting?.moment() !== 'asking') return;
    sitting.goOn(at);
    // Too soon to be an answer: before anything was to be seen.
    this.listen();
  }
  #close(): void {
    this.#stop();
    this.#stop = () => undefined;
    this.pad.set(null);
    void this.voice()?.close();
    this.voice.set(null);
  }
}
