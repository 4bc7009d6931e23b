import { ChangeDetectionStrategy, Component, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { mdiTuneVariant } from '@mdi/js';
import { Icon } from '../parts/icon';
import { Session } from '../signedIn/session';
import { ClassChooser } from './classChooser';
import { Waiting } from './waiting';

const PLACES = [
  { path: '/today', name: $localize`Today` },
  { path: '/carpet', name: $localize`Carpet` },
  { path: '/children', name: $localize`Children` },
  { path: '/class', name: $localize`Class` },
  { path: '/log', name: $localize`Log` },
  { path: '/prints', name: $localize`Prints` },
] as const;

@Component({
  selector: 'vane-header',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, RouterLinkActive, MatButtonModule, ClassChooser, Icon, Waiting],
  template: `
    <header>
      <a i18n class="mark" routerLink="/today">
        <svg viewBox="0 0 32 32" width="30" height="30" aria-hidden="true">
          <path
            d="M16 29V4M3 11h25M23 6l6 5-6 5M3 6v10M10 29h12"
            fill="none"
            stroke="currentColor"
            stroke-width="2.2"
            stroke-linejoin="round"
            stroke-linecap="round"
          />
        </svg>
        Vane
      </a>
      @defer (when (session.me()?.classes?.length ?? 0) > 1) {
        <vane-class-chooser />
      } @placeholder {
        <span class="class">{{ session.openClass()?.name }}</span>
      } @error {
        <span class="class">{{ session.openClass()?.name }}</span>
      }
      <vane-waiting />
      <nav i18n-aria-label aria-label="Places">
        @for (place of places; track place.path) {
          <a [routerLink]="place.path" routerLinkActive="here" ariaCurrentWhenActive="page">{{ place.name }}</a>
        }
      </nav>
      <button
        matIconButton
        type="button"
        i18n-aria-label
        aria-label="Settings"
        [attr.aria-expanded]="settingsOpen()"
        (click)="settings.emit()"
      >
        <vane-icon [path]="icon" />
      </button>
    </header>
  `,
  styles: `
    header {
      display: flex;
      align-items: center;
      gap: 8px 18px;
      flex-wrap: wrap;
      padding: 10px 40px 6px;
      max-width: 1360px;
      margin: 0 auto;
    }
    .mark {
      display: inline-flex;
      align-items: center;
      gap: 8px;
      font: 24px var(--reading);
      color: var(--ink);
      text-decoration: none;
      min-height: 44px;
    }
    .mark svg {
      color: var(--tide);
    }
    .class {
      color: var(--faint);
    }
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 0 22px;
      margin-left: auto;
    }
    nav a {
      color: var(--ink);
      text-decoration: none;
      min-height: 44px;
      display: inline-flex;
      align-items: center;
      border-bottom: 3px solid transparent;
    }
    nav a.here {
      border-bottom-color: var(--tide);
    }
    nav a:hover {
      border-bottom-color: var(--sand);
    }
    @media (max-width: 820px) {
      header {
        padding: 8px 20px;
      }
      nav {
        order: 5;
        width: 100%;
        margin: 0;
        gap: 0 18px;
      }
      button {
        margin-left: auto;
      }
    }
    @media (max-width: 440px) {
      nav {
        gap: 0 13px;
        font-size: 16px;
      }
    }
  `,
})
export class Header {
  readonly session = inject(Session);
  readonly settingsOpen = input(false);
  readonly settings = output();
  readonly places = PLACES;
  readonly icon = mdiTuneVariant;
}
