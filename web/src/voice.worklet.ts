import { OnsetDetector } from '@vane/core';

/** The audio thread's side of the voice key: what comes in goes through the detector and no further. */
declare const sampleRate: number;
declare const currentFrame: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

class OnsetProcessor extends AudioWorkletProcessor {
  readonly #detector = new OnsetDetector(sampleRate);
  #taken = 0;

  constructor() {
    super();
    this.port.onmessage = () => this.#detector.listen();
  }

  process([input]: readonly (readonly Float32Array[])[]): boolean {
    // A source that is still gives no channel at all: that is silence, and time goes on.
    const samples = input?.[0] ?? new Float32Array(128);
    // Where the detector's count stands on the audio clock, should blocks ever have been left out.
    const begun = currentFrame - this.#taken;
    this.#taken += samples.length;
    const onset = this.#detector.feed(samples);
    if (onset !== null) this.port.postMessage({ seconds: (begun + onset) / sampleRate });
    return true;
  }
}

registerProcessor('vane-onset', OnsetProcessor);
