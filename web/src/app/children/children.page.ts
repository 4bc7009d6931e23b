import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { formatDistanceToNowStrict } from 'date-fns';
import { Trouble } from '../look/trouble';
import { Api } from '../session/api';
import { Session } from '../session/session';

/** Everybody in the class, by name. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, MatFormFieldModule, MatInputModule, Trouble],
  template: `
    <div class="page">
      <h1>Children</h1>
      @if (view.error()) {
        <vane-trouble [error]="view.error()" (again)="view.reload()" />
      } @else if (!view.hasValue()) {
        <p role="status">Fetching the class …</p>
      } @else {
        <mat-form-field appearance="outline">
          <mat-label>Find a child</mat-label>
          <input matInput type="search" [value]="wanted()" (input)="wanted.set($any($event.target).value)" />
        </mat-form-field>
        <ul>
          @for (child of found(); track child.id) {
            <li>
              <a [routerLink]="['/children', child.id]">{{ child.nickname }}</a> <span class="faint">{{ child.asked }}</span>
            </li>
          } @empty {
            <li class="faint">{{ wanted() ? 'Nobody of this name.' : 'There is no child in this class yet.' }}</li>
          }
        </ul>
      }
    </div>
  `,
  styles: `
    mat-form-field {
      margin-top: 12px;
      width: min(340px, 100%);
    }
    ul {
      list-style: none;
      padding: 0;
      margin: 0;
      columns: 280px;
      column-gap: 48px;
    }
    li {
      border-top: 1px solid var(--sand);
      min-height: 48px;
      display: flex;
      align-items: center;
      gap: 14px;
      break-inside: avoid;
    }
    a {
      font-size: 18px;
      min-height: 44px;
      display: inline-flex;
      align-items: center;
    }
  `,
})
export class ChildrenPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly wanted = signal('');
  readonly view = rxResource({ params: () => this.#session.classId() || undefined, stream: ({ params }) => this.#api.classView(params) });
  readonly found = computed(() => {
    const text = this.wanted().trim().toLowerCase();
    const children = this.view.hasValue() ? this.view.value().children : [];
    return children
      .filter((child) => child.nickname.toLowerCase().includes(text))
      .map((child) => ({
        ...child,
        asked: child.lastAskedAt === null ? 'not asked yet' : `asked ${formatDistanceToNowStrict(new Date(child.lastAskedAt))} ago`,
      }));
  });
}
