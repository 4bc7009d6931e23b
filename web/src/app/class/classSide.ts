import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { grouped, openerFor } from '@vane/core';
import { carpetWords } from '../language/carpetWords';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { DateField } from '../parts/dateField';
import { movement, type ClassChild } from './classChildren';
import { Names } from './names';

/** Beside the picture: one child that was chosen; or what suits everybody, who was not heard, for whom nothing changes, who can go on, and who moved. */
@Component({
  selector: 'vane-class-side',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, DateField],
  template: `
    @if (child(); as one) {
      <section i18n-aria-label aria-label="The chosen child">
        <h2>{{ names.of(one.nickname) }}</h2>
        <p>{{ one.where }}. {{ one.before }}</p>
        <p>
          <b>{{ one.title }}.</b> {{ one.reason }}
        </p>
        @if (one.stuck) {
          <p>{{ one.stuck }}</p>
        }
        @if (one.neighbours) {
          <p i18n>The same need: {{ one.neighbours }}.</p>
        } @else {
          <p i18n>Nobody else needs exactly this.</p>
        }
        <p>
          <a i18n [routerLink]="['/children', one.id]">What do they know?</a>
          <button i18n type="button" (click)="left.emit()">Close</button>
        </p>
      </section>
    } @else {
      @if (opener(); as one) {
        <section aria-labelledby="everyone">
          <h2 i18n id="everyone">Tomorrow, everyone</h2>
          <p>
            {{ one.words }}
            <a i18n routerLink="/carpet" [queryParams]="{ routine: one.routine }">Open on the carpet</a>
          </p>
        </section>
      }
      <section aria-labelledby="unheard">
        <h2 i18n id="unheard">Not heard this week</h2>
        <p>{{ unheard() }}</p>
      </section>
      <section aria-labelledby="stuck">
        <h2 i18n id="stuck">No change for three weeks: try another way</h2>
        @if (pastKnown()) {
          @for (one of stuck(); track one.id) {
            <p>
              {{ one.who }}, {{ one.on }}
              @if (one.way; as way) {
                <a routerLink="/carpet" [queryParams]="{ child: one.id, routine: way.routine, straight: true }">{{
                  way.title
                }}</a>
              }
            </p>
          } @empty {
            <p i18n class="faint">Nobody.</p>
          }
        } @else {
          <p class="faint">{{ later }}</p>
        }
      </section>
      <section aria-labelledby="ready">
        <h2 i18n id="ready">Ready to go on</h2>
        @if (pastKnown()) {
          @for (one of ready(); track one.to) {
            <p>{{ one.to }}: {{ one.who }}</p>
          } @empty {
            <p i18n class="faint">Nobody yet.</p>
          }
        } @else {
          <p class="faint">{{ later }}</p>
        }
      </section>
      <section aria-labelledby="moved">
        <h2 i18n id="moved">Moved since</h2>
        <vane-date-field i18n-label label="Day" [max]="today()" [value]="since()" (picked)="compare.emit($event)" />
        @if (pastKnown()) {
          <p>{{ moved() }}</p>
        } @else {
          <p class="faint">{{ later }}</p>
        }
        @if (versions(); as said) {
          <p class="faint">{{ said }}</p>
        }
      </section>
    }
  `,
  styles: `
    h2 {
      font-size: 20px;
    }
    section {
      padding: 0 0 10px;
    }
    p {
      margin: 0 0 2px;
      font-size: 15px;
      line-height: 1.4;
    }
    button {
      min-height: 44px;
      font: inherit;
      color: var(--tide);
      background: none;
      border: 0;
      cursor: pointer;
    }
    vane-date-field {
      display: block;
      max-width: 220px;
      margin: 6px 0 4px;
    }
  `,
})
export class ClassSide {
  readonly names = inject(Names);
  readonly children = input.required<readonly ClassChild[]>();
  readonly chosen = input('');
  readonly since = input.required<string>();
  readonly today = input.required<string>();
  /** Whether all past weeks are judged: until then nothing is said that stands on them. */
  readonly pastKnown = input.required<boolean>();
  readonly later = $localize`Ready in a moment.`;
  readonly compare = output<string>();
  readonly left = output();

  readonly child = computed(() => {
    const one = this.children().find(({ id }) => id === this.chosen());
    if (!one) return null;
    const { place } = pageWords.classPage;
    const others = this.children().filter((other) => other !== one && other.needName === one.needName);
    return {
      id: one.id,
      nickname: one.nickname,
      where: words.capital(place(one.at, one.place)),
      before: one.then && movement(one) ? $localize`Before: ${place({ ...one.then, allKnown: false })}:place:.` : '',
      title: words.plan.title([one.planned.need]),
      reason: `${words.capital(words.plan.reason(one.planned))}.`,
      stuck: one.stuck ? pageWords.classPage.noChange(one.stuck) : '',
      neighbours: others.length > 0 ? this.#named(others) : '',
    };
  });
  readonly opener = computed(() => {
    const found = openerFor(this.children().map(({ id, planned }) => ({ child: id, need: planned.need })));
    return (
      found && {
        words: pageWords.classPage.opener(found, this.children().length),
        routine: found.routine,
      }
    );
  });
  readonly unheard = computed(() => {
    const own = this.children().filter((one) => !one.heardThisWeek);
    if (own.length === 0) return $localize`Everybody was heard.`;
    return own.length === this.children().length ? $localize`Nobody has been heard this week.` : this.#named(own);
  });
  /** By number: who, what has not changed, and a routine to try. */
  readonly stuck = computed(() =>
    this.children()
      .flatMap((one) => (one.stuck ? [{ ...one, stuck: one.stuck }] : []))
      .sort((a, b) => a.stuck.number - b.stuck.number)
      .map(({ id, nickname, stuck, anotherWay }) => ({
        id,
        who: this.names.of(nickname),
        on: words.listed(stuck.facts.map(words.fact)),
        way: anotherWay && { routine: anotherWay, title: carpetWords.routines[anotherWay].title },
      })),
  );
  readonly ready = computed(() => {
    const own = this.children().flatMap(({ ready, planned, nickname }) =>
      ready ? [{ to: pageWords.classPage.nextStep(ready, planned.need), nickname }] : [],
    );
    return [...grouped(own, ({ to }) => to)]
      .sort()
      .map(([to, who]) => ({ to: words.capital(to), who: this.#named(who) }));
  });
  readonly moved = computed(() => {
    const ways = this.children().map((one) => ({ ...one, wake: movement(one) ?? { across: 0, up: 0 } }));
    const [on, help, back] = [
      ways.filter(({ wake }) => wake.across > 0),
      ways.filter(({ wake }) => wake.up > 0),
      ways.filter(({ wake }) => wake.across < 0),
    ];
    const said = [
      ...(on.length > 0 ? [$localize`On to a larger number: ${this.#named(on)}.`] : []),
      ...(help.length > 0 ? [$localize`With less help: ${this.#named(help)}.`] : []),
      ...(back.length > 0 ? [$localize`Back to a smaller one: ${this.#named(back)}.`] : []),
    ];
    if (said.length > 0) return said.join(' ');
    return this.children().some(({ then }) => then !== null)
      ? $localize`Nobody has moved to another number or needs less help.`
      : $localize`Nothing from that far back.`;
  });
  /** Where the judgement itself has changed since: that is no child's doing. */
  readonly versions = computed(() => {
    const own = this.children().flatMap(({ nickname, versionMoved }) =>
      versionMoved ? [{ nickname, versionMoved }] : [],
    );
    const [first] = own;
    return first
      ? $localize`Vane was updated since then (before: ${first.versionMoved.version}:version:), so the number of ${this.#named(own)} may differ from what you saw then. That is not counted as moving.`
      : '';
  });

  #named(children: readonly { readonly nickname: string }[]): string {
    return this.names.listed(children.map(({ nickname }) => nickname));
  }
}
