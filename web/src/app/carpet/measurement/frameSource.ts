import { InjectionToken } from '@angular/core';

/** The display's frames behind a small port, so that tests can play them one by one. Times are DOMHighResTimeStamp, milliseconds. */
export interface FrameSource {
  /** Calls back once, at the next frame, with that frame's time. Returns a way to call it off. */
  next(callback: (at: number) => void): () => void;
  /** The page's clock now, on the same scale. */
  now(): number;
}

const browserFrames: FrameSource = {
  next(callback) {
    const handle = requestAnimationFrame(callback);
    return () => cancelAnimationFrame(handle);
  },
  now: () => performance.now(),
};

export const FRAMES = new InjectionToken<FrameSource>('frames', { providedIn: 'root', factory: () => browserFrames });
