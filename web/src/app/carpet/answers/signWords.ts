import type { Sign } from '@vane/core';
import { words } from '../../language/words';
import { FINER_SIGNS, type FinerSign } from '../sitting/marks';

/** What an adult saw, as the presses say it, each with its key. */
export const SIGN_WORDS: readonly { readonly sign: Sign; readonly words: string; readonly key: string }[] = [
  { sign: 'knew', words: words.record.signs.knew, key: 'j' },
  { sign: 'derived', words: words.record.signs.derived, key: 'w' },
  { sign: 'counted', words: words.record.signs.counted, key: 'k' },
  { sign: 'guessed', words: words.record.signs.guessed, key: 'g' },
];
const FINER: Record<FinerSign, string> = { fingers: $localize`fingers`, lips: $localize`lips` };
export const FINER_WORDS = FINER_SIGNS.map((code) => ({ code, words: FINER[code], key: code.slice(0, 1) }));
