import { v4 } from 'uuid';
import { DOCUMENT, Injectable, inject, signal } from '@angular/core';

const THEMES = ['system', 'light', 'dark'] as const;
type Theme = (typeof THEMES)[number];
const SIDES = ['right', 'left'] as const;
type Side = (typeof SIDES)[number];

const read = <T extends string>(key: string, known: readonly T[], otherwise: T): T =>
  known.find((value) => value === localStorage.getItem(key)) ?? otherwise;

/** A code that tells this device from others, and says nothing else. */
function deviceCode(): string {
  const kept = localStorage.getItem('vane.device');
  if (kept !== null) return kept;
  const code = v4().slice(0, 8);
  localStorage.setItem('vane.device', code);
  return code;
}

/** What this device prefers: kept on the device, not in the account. */
@Injectable({ providedIn: 'root' })
export class DevicePreferences {
  readonly #root = inject(DOCUMENT).documentElement;
  readonly code = deviceCode();
  readonly theme = signal(read('vane.theme', THEMES, 'system'));
  /** Which edge of the stage the mark column stands on. */
  readonly side = signal(read('vane.side', SIDES, 'right'));

  constructor() {
    this.#show(this.theme());
  }
  setTheme(theme: Theme): void {
    localStorage.setItem('vane.theme', theme);
    this.theme.set(theme);
    this.#show(theme);
  }
  setSide(side: Side): void {
    localStorage.setItem('vane.side', side);
    this.side.set(side);
  }
  #show(theme: Theme): void {
    if (theme === 'system') delete this.#root.dataset['theme'];
    else this.#root.dataset['theme'] = theme;
  }
}
