import type { Drawn } from '../layouts/drawn';

/** A page of words as data: whoever draws it breaks the lines and the pages. */
export type Block =
  | { readonly block: 'heading' | 'text' | 'small' | 'large'; readonly text: string }
  | { readonly block: 'list'; readonly items: readonly string[]; readonly large?: boolean }
  | {
      readonly block: 'table';
      readonly head: readonly string[];
      readonly rows: readonly (readonly (string | Drawn)[])[];
      readonly widthsMm?: readonly number[];
      /** To be read by somebody who holds the page and runs a group. */
      readonly large?: boolean;
    }
  | { readonly block: 'drawing'; readonly drawn: Drawn; readonly widthMm: number };

export const heading = (text: string): Block => ({ block: 'heading', text });
export const line = (text: string): Block => ({ block: 'text', text });
export const large = (text: string): Block => ({ block: 'large', text });
export const small = (text: string): Block => ({ block: 'small', text });
