import { jest } from '@jest/globals';
import { TestBed } from '@angular/core/testing';
import { signal } from '@angular/core';
import type { Sitting } from '../sitting/sitting';
import { Devices } from './devices';
import { ControllerPad, CONTROLLERS, enough, SimulatedPad } from './pads';
import { VOICES } from './voice';

const controller = (pressed: readonly number[], timestamp = 0, buttons = 12): Gamepad =>
  ({
    id: 'eleven buttons',
    index: 0,
    timestamp,
    buttons: Array.from({ length: buttons }, (_, i) => ({ pressed: pressed.includes(i) })),
  }) as unknown as Gamepad;

describe('answer pads', () => {
  it('a controller is heard once a press, when the browser stamped it', () => {
    const frames: FrameRequestCallback[] = [];
    const next = jest
      .spyOn(globalThis, 'requestAnimationFrame')
      .mockImplementation((frame: FrameRequestCallback) => frames.push(frame));
    let now: Gamepad[] = [controller([])];
    const heard: [number, number][] = [];
    const stop = new ControllerPad('one', () => now).start((n, at) => heard.push([n, at]));
    const frame = (at: number): void => frames.shift()?.(at);
    frame(10);
    now = [controller([7], 22)];
    frame(26);
    frame(42);
    now = [controller([])];
    frame(58);
    now = [controller([10, 11], 70)];
    frame(74);
    stop();
    // The twelfth button is none of a pad's.
    expect(heard).toEqual([
      [7, 22],
      [10, 70],
    ]);
    next.mockRestore();
    expect([enough([null, controller([], 0, 4)]), enough([controller([])])?.id]).toEqual([null, 'eleven buttons']);
  });

  it('the simulated one is late, and not always as late', async () => {
    jest.useFakeTimers();
    const heard: number[] = [];
    const chance = [0, 1];
    const pad = new SimulatedPad(() => chance.shift() ?? 0);
    const stop = pad.start((_, at) => heard.push(at));
    pad.press(3, 1000);
    pad.press(4, 2000);
    await jest.advanceTimersByTimeAsync(100);
    stop();
    pad.press(5, 3000);
    await jest.advanceTimersByTimeAsync(100);
    expect(heard).toEqual([1022, 2038]);
    jest.useRealTimers();
  });
});

describe('devices of a sitting', () => {
  function sittingBy(mode: string, chosen = mode) {
    const moment = signal('asking');
    const done: string[] = [];
    const sitting = {
      mode: () => mode,
      wish: { settings: { answerMode: chosen } },
      moment,
      mark: (n: number, at: number) => done.push(`mark ${n} ${at}`),
      goOn: (at: number) => done.push(`stop ${at}`),
    };
    return { sitting: sitting as unknown as Sitting, moment, done };
  }
  function devices(controllers: readonly Gamepad[] = [], voices: object = {}): Devices {
    TestBed.configureTestingModule({
      providers: [
        Devices,
        { provide: CONTROLLERS, useValue: () => controllers },
        { provide: VOICES, useValue: voices },
      ],
    });
    return TestBed.inject(Devices);
  }

  it('take a controller where there is one, else the simulated pad; and none where the child taps', () => {
    const own = devices([controller([])]);
    own.attach(sittingBy('pad').sitting);
    expect(own.pad()?.name).toBe('eleven buttons');
    own.attach(sittingBy('tap').sitting);
    expect(own.pad()).toBeNull();
    TestBed.resetTestingModule();
    const without = devices();
    without.attach(sittingBy('pad').sitting);
    expect(without.pad()?.simulated).toBe(true);
    without.lookForController();
    expect(without.trouble()).toContain('No controller');
  });

  it('a question that is built is not answered by the pad, though its sitting is', async () => {
    const own = devices();
    const { sitting, done } = sittingBy('build', 'pad');
    own.attach(sitting);
    expect(own.pad()?.simulated).toBe(true);
    jest.useFakeTimers();
    try {
      own.pressSimulated(4, 100);
      // On its way for some hundredths of a second.
      expect(jest.getTimerCount()).toBe(1);
      await jest.runAllTimersAsync();
      expect(done).toEqual([]);
    } finally {
      jest.useRealTimers();
    }
  });

  it('a voice stops the clock while an answer is awaited, and only then', async () => {
    let heard: (at: number) => void = () => undefined;
    let listening = 0;
    let closed = 0;
    const voice = {
      simulated: true,
      listen: () => listening++,
      close: () => Promise.resolve(void closed++),
      say: () => undefined,
    };
    const own = devices([], {
      simulated: (to: (at: number) => void) => ((heard = to), Promise.resolve(voice)),
      microphone: () => Promise.reject(new Error('not allowed')),
    });
    const { sitting, moment, done } = sittingBy('voice');
    own.attach(sitting);
    own.useVoice('simulated');
    await Promise.resolve();
    await Promise.resolve();
    expect(listening).toBe(1);
    heard(500);
    moment.set('stopped');
    heard(700);
    expect(done).toEqual(['stop 500']);
    own.useVoice('microphone');
    await new Promise((turn) => setTimeout(turn));
    expect([closed, own.voice()]).toEqual([1, null]);
    expect(own.trouble()).toContain('not allowed');
  });
});
