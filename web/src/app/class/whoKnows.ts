import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { parseFact, type Need, type Reading, type Topic } from '@vane/core';
import { words } from '../language/words';

const NUMBERS = [2, 3, 4, 5, 6, 7, 8, 9, 10];
const STEPS = [
  { need: 'seeing' },
  { need: 'anchor', to: 5 },
  { need: 'anchor', to: 10 },
  ...NUMBERS.map((whole) => ({ need: 'pairs', whole }) as const),
  ...NUMBERS.map((whole) => ({ need: 'undoing', whole }) as const),
] as const;
/** As it is compared with what was typed: without spaces, and with the hyphen that keyboards have. */
const plain = (text: string): string => text.toLowerCase().replaceAll('−', '-').replace(/\s/g, '');
const LONGEST_QUESTION = 40;

/** What can be asked, what else it is called, and what it is about: a topic, or a child by its id. */
interface Choice {
  readonly words: string;
  readonly also: string;
  readonly about: Topic | { readonly about: 'child'; readonly child: string };
}

/** A need in the other words that a teacher may type, its number as a figure too. */
function otherWords(need: Need): string {
  if (need.need === 'pairs')
    return $localize`pairs of ${need.whole}, bonds of ${need.whole}, ways to make ${need.whole}`;
  if (need.need === 'undoing') return $localize`take away, taking away, missing part: ${need.whole}`;
  if (need.need === 'anchor') return $localize`to ${need.to}`;
  return '';
}

/** A fact with its answer, and an amount as it is seen. */
function asAsked(text: string): string {
  const { kind, answer } = parseFact(text);
  if (kind === 'show') return $localize`seeing ${answer}`;
  return text.includes('?') || text.startsWith('bond:') ? '' : `${text}=${answer}`;
}

/** What the class is looked at for, typed or chosen: a fact that was asked, a step of the path, everything about a number, or a child. What is typed anew takes the last answer away. */
@Component({
  selector: 'vane-who-knows',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ReactiveFormsModule, MatAutocompleteModule, MatButtonModule, MatFormFieldModule, MatInputModule],
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-label i18n>Who knows …?</mat-label>
      <input
        matInput
        i18n-placeholder
        placeholder="2 + 3, pairs of six, …"
        autocomplete="off"
        [formControl]="asked"
        [matAutocomplete]="auto"
      />
      <mat-autocomplete #auto="matAutocomplete" autoActiveFirstOption [displayWith]="wordsOf">
        @for (one of found(); track $index) {
          <mat-option [value]="one">{{ one.words }}</mat-option>
        } @empty {
          <mat-option i18n disabled class="nothing-found"
            >Nothing like that has been asked. Try 2 + 3, pairs of six, seeing 8, take away, everything about 7 or a
            child’s name.</mat-option
          >
        }
      </mat-autocomplete>
    </mat-form-field>
    @if (chosen()) {
      <button i18n matButton type="button" (click)="asked.setValue('')">Clear</button>
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
    }
    mat-form-field {
      width: 270px;
    }
  `,
})
export class WhoKnows {
  readonly readings = input.required<readonly Reading[]>();
  /** Whose names may be looked for. */
  readonly children = input<readonly { readonly id: string; readonly nickname: string }[]>([]);
  readonly topic = output<{ readonly words: string; readonly topic: Topic } | null>();
  readonly child = output<string>();

  /** What was typed, or what was chosen of it. */
  readonly asked = new FormControl<string | Choice>('', { nonNullable: true });
  readonly #asked = toSignal(this.asked.valueChanges, { initialValue: '' });
  readonly chosen = computed(() => typeof this.#asked() !== 'string');
  readonly wordsOf = (one: string | Choice): string => (typeof one === 'string' ? one : one.words);
  readonly #choices = computed((): Choice[] => [
    ...STEPS.map((need) => ({
      words: words.plan.title([need]),
      also: otherWords(need),
      about: { about: 'need', need } as const,
    })),
    ...NUMBERS.map((number) => ({
      words: $localize`Everything about ${number}`,
      also: '',
      about: { about: 'number', number } as const,
    })),
    ...[...new Set(this.readings().flatMap((r) => (r.responses > 0 ? [r.fact] : [])))]
      .sort()
      .map((fact) => ({ words: words.fact(fact), also: asAsked(fact), about: { about: 'fact', fact } as const })),
    ...this.children().map(({ id, nickname }) => ({
      words: nickname,
      also: '',
      about: { about: 'child', child: id } as const,
    })),
  ]);
  readonly found = computed(() => {
    const typed = plain(this.wordsOf(this.#asked()));
    return this.#choices()
      .filter((one) => plain(one.words).includes(typed) || plain(one.also).includes(typed))
      .slice(0, LONGEST_QUESTION);
  });

  constructor() {
    this.asked.valueChanges.pipe(takeUntilDestroyed()).subscribe((one) => {
      const about = typeof one === 'string' ? null : one.about;
      if (about?.about === 'child') {
        this.child.emit(about.child);
        // No name stays in the field: names may be hidden later.
        this.asked.setValue('');
      } else this.topic.emit(about === null ? null : { words: this.wordsOf(one), topic: about });
    });
  }
}
