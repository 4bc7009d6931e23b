import type { Mistake } from '../mistakes/mistake';

/** Prompts that hold no numbers. */
export const PLAIN_PROMPTS = [
  'ready',
  'copy',
  'count',
  'how-many-seen',
  'how-many',
  'how-many-now',
  'empty-boxes',
  'folded',
  'left',
  'find-whole',
  'find-part',
  'how-known',
  'thanks',
  'boxes',
  'start-box',
  'fill-empty',
  'fill-full',
  'build-seen',
  'look-at-yours',
  'same-as-yours',
  'just-the-same',
  'where-start',
  'which-row',
  'no-gaps',
  'count-aloud',
  'count-and-dot',
  'ten-out',
  'own-pattern',
  'warm-up',
  'said-already',
  'top-row',
  'lower-row',
  'in-all',
  'one-more',
  'one-less',
  'same-or-different',
  'which-more',
  'make-equal',
  'take-equal',
  'how-many-groups',
  'match-objects',
  'where-to-cut',
  'two-sides',
  'another-cut',
  'turned',
  'find-ten',
  'nearer-ten',
  'to-ten',
  'move-enough',
  'left-over',
  'hides-ten',
  'remember-card',
  'boxes-top',
  'boxes-below',
  'rule-start',
  'rule-row',
  'rule-row-five',
  'which-easier',
  'whole-row',
  'full',
  'empty',
  'how-seen',
  'turn-hand',
  'this-side',
  'this-part',
  'this-half',
  'other-half',
  'own-story',
  'child-sets',
  'row-goes',
  'silent',
  'where-ten',
  'five-to-ten',
  'check-start',
  'check-thanks',
  'on-the-frame',
  'count-together',
  'count-empties',
  'move-one-back',
  'move-one-more',
  'look-at-board',
  'have-that-way',
  'all-yet',
  'new-way',
] as const;
export type PlainPrompt = (typeof PLAIN_PROMPTS)[number];

/** What the adult says next, as data; the catalogue's `prompt` puts it into the class's own words. */
export type Prompt =
  | { readonly say: PlainPrompt }
  | { readonly say: 'how-many-more'; readonly to: number }
  | { readonly say: 'picture-it'; readonly first: number; readonly whole: number }
  | { readonly say: 'sentence' | 'whole-sentence' | 'say-sentence' | 'card-back' | 'undo'; readonly fact: string }
  | { readonly say: 'story-told' | 'count-up'; readonly first: number; readonly second: number }
  | {
      readonly say: 'parts-sentence' | 'turned-sentence';
      readonly whole: number;
      readonly first: number;
      readonly second: number;
    }
  | { readonly say: 'split' | 'where-move'; readonly of: number; readonly to: number }
  | { readonly say: 'count-on'; readonly from: number; readonly to: number }
  /** The question again, in words of its own: after what was thought, when nobody answered, at the same picture. */
  | { readonly say: 'check'; readonly question: Prompt; readonly thought: Thought | null }
  | { readonly say: 'look-together' | 'look-again'; readonly question: Prompt }
  | { readonly say: 'turned-new' | 'turned-same'; readonly first: number; readonly second: number }
  | { readonly say: 'not-a-way'; readonly first: number; readonly second: number; readonly whole: number }
  | { readonly say: 'story'; readonly first: number; readonly second: number }
  | {
      readonly say:
        | 'follow-up'
        | 'fill'
        | 'anywhere'
        | 'and-one-more'
        | 'one-more-than'
        | 'count-or-see'
        | 'start-full'
        | 'say-rule'
        | 'still'
        | 'built'
        | 'take-off'
        | 'put-on';
      readonly n: number;
    }
  | { readonly say: 'count-in'; readonly of: 2 | 5 }
  | { readonly say: 'other-side'; readonly first: number }
  | {
      readonly say:
        | 'hidden-part'
        | 'moved-one'
        | 'a-way'
        | 'next-way'
        | 'withheld-way'
        | 'ways-done'
        | 'recap'
        | 'tell-one'
        | 'write-whole'
        | 'way-each';
      readonly whole: number;
    }
  | { readonly say: 'ways-so-far'; readonly found: number; readonly repeated: number; readonly left: number }
  | { readonly say: 'ways-totals' | 'die-shuts-out'; readonly whole: number }
  | { readonly say: 'three-parts'; readonly parts: readonly number[] }
  | { readonly say: 'three-missing'; readonly known: readonly [number, number]; readonly whole: number }
  | { readonly say: 'wrong-on-purpose'; readonly fact: string; readonly claim: number }
  | { readonly say: 'die'; readonly whole: number; readonly face: number }
  | { readonly say: 'check-says'; readonly known: number };

/** What a wrong answer says of how it was thought: its name, the question and the number. */
export interface Thought {
  readonly mistake: Mistake;
  readonly fact: string;
  readonly given: number;
}
