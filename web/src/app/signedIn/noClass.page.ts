import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { Doing } from '../parts/doing';
import { Session } from './session';

/** For an adult without a class: every place of a class would be empty, so that they are told whom to ask instead. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, RouterLink],
  template: `
    <div class="page">
      <h1 i18n>No class yet</h1>
      @if (leads()) {
        <p i18n>Your school has no class at present. <a routerLink="/school">Add or restore one</a> to begin.</p>
      } @else {
        <p i18n>You do not have a class at present. Ask your school’s lead to give you one, then look again.</p>
      }
      <p role="status">{{ doing.told() }}</p>
      @if (doing.trouble()) {
        <p role="alert">{{ doing.trouble() }}</p>
      }
      <button i18n matButton="outlined" type="button" (click)="lookAgain()">Look again</button>
    </div>
  `,
})
export class NoClassPage {
  readonly #session = inject(Session);
  readonly #router = inject(Router);
  readonly doing = new Doing();
  readonly leads = computed(() => this.#session.me()?.adult?.role === 'lead');

  lookAgain(): void {
    this.doing.run(this.#session.refresh(), '', ({ classes }) => {
      if (classes.length > 0) void this.#router.navigate(['/today']);
      else this.doing.told.set($localize`Still no class.`);
    });
  }
}
