import { InjectionToken } from '@angular/core';
import { seeded, utterance } from '@vane/core';

/** What hears a child begin to speak, and when by the page's clock. It goes by level alone: nothing is recorded, kept or sent. */
export interface VoiceKey {
  readonly simulated: boolean;
  /** Waits for the next onset. */
  listen(): void;
  close(): Promise<void>;
}

const WORKLET = '/voice.js';

/** A sound source with the detector behind it, in the browser's audio thread. */
async function hear(context: AudioContext, source: AudioNode, heard: (at: number) => void): Promise<AudioWorkletNode> {
  await context.audioWorklet.addModule(WORKLET);
  const node = new AudioWorkletNode(context, 'vane-onset', { numberOfOutputs: 0 });
  node.port.onmessage = ({ data }: MessageEvent<{ seconds: number }>) => {
    // The audio clock, brought onto the page's.
    const { contextTime, performanceTime } = context.getOutputTimestamp();
    const [there, here] =
      contextTime && performanceTime ? [contextTime, performanceTime] : [context.currentTime, performance.now()];
    heard(here + (data.seconds - there) * 1000);
  };
  source.connect(node);
  return node;
}

/** The microphone. Its own delay is the same for a copied number as for an answer, and so is part of the hand time. */
async function microphone(heard: (at: number) => void): Promise<VoiceKey> {
  const sound = await navigator.mediaDevices.getUserMedia({
    audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
  });
  const context = new AudioContext();
  const node = await hear(context, context.createMediaStreamSource(sound), heard);
  return {
    simulated: false,
    listen: () => node.port.postMessage('listen'),
    close: async () => {
      for (const track of sound.getTracks()) track.stop();
      await context.close();
    },
  };
}

/** The voice that ships with Vane: made-up sounds, fed to the same detector and not played aloud. */
export interface SimulatedVoice extends VoiceKey {
  /** "Says" a number from now on. */
  say(n: number): void;
}

const ROOM = 0.002;
/** The room is heard before the voice. */
const LEAD_S = 0.25;

async function simulated(heard: (at: number) => void): Promise<SimulatedVoice> {
  const context = new AudioContext();
  await context.resume();
  const mixed = context.createGain();
  const node = await hear(context, mixed, heard);
  let spoken = 0;
  return {
    simulated: true,
    listen: () => node.port.postMessage('listen'),
    say: (n) => {
      const { samples } = utterance(n, {
        sampleRate: context.sampleRate,
        leadS: LEAD_S,
        noise: ROOM,
        random: seeded(++spoken),
      });
      const buffer = context.createBuffer(1, samples.length, context.sampleRate);
      buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, 0);
      const source = context.createBufferSource();
      source.buffer = buffer;
      source.connect(mixed);
      source.start();
    },
    close: () => context.close(),
  };
}

interface Voices {
  microphone(heard: (at: number) => void): Promise<VoiceKey>;
  simulated(heard: (at: number) => void): Promise<SimulatedVoice>;
}
export const VOICES = new InjectionToken<Voices>('voices', {
  providedIn: 'root',
  factory: () => ({ microphone, simulated }),
});
