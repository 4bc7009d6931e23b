import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatSidenavModule } from '@angular/material/sidenav';
import { NavigationEnd, Router, RouterOutlet } from '@angular/router';
import { filter, map } from 'rxjs';
import { Session } from './session/session';
import { Header } from './shell/header';
import { SettingsDrawer } from './shell/settingsDrawer';
import { WholeScreen } from './shell/wholeScreen';

/** The shell: header with the six places, the open place, and the settings drawer. A running sitting has the whole screen to itself. */
@Component({
  selector: 'vane-root',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet, MatSidenavModule, Header, SettingsDrawer],
  template: `
    <mat-sidenav-container>
      <mat-sidenav
        #drawer
        mode="over"
        position="end"
        [autoFocus]="'first-tabbable'"
        (openedChange)="drawerOpen.set($event)"
        (openedStart)="drawerOpen.set(true)"
      >
        @defer (when drawerOpen()) {
          <vane-settings-drawer (done)="drawer.close()" />
        }
      </mat-sidenav>
      <mat-sidenav-content>
        @if (inside() && !wholeScreen()) {
          <vane-header [settingsOpen]="drawerOpen()" (settings)="drawer.toggle()" />
        }
        <main><router-outlet /></main>
      </mat-sidenav-content>
    </mat-sidenav-container>
  `,
  styles: `
    mat-sidenav-container {
      min-height: 100vh;
      background: var(--paper);
      color: var(--ink);
    }
    mat-sidenav {
      width: min(400px, 92vw);
      background: var(--paper);
      border-radius: 0;
    }
  `,
})
export class Root {
  readonly #session = inject(Session);
  readonly #router = inject(Router);

  readonly drawerOpen = signal(false);
  readonly #url = toSignal(
    this.#router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
    ),
    { initialValue: this.#router.url },
  );
  readonly inside = computed(() => this.#session.me() !== null && !/^\/(sign-in|set-up)/.test(this.#url()));
  readonly wholeScreen = inject(WholeScreen).taken;
}
