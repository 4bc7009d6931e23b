import { afterNextRender, ChangeDetectionStrategy, Component, inject, signal, viewChild } from '@angular/core';
import { outputFromObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { type MatSidenav, MatSidenavModule } from '@angular/material/sidenav';
import { Router, RouterLink } from '@angular/router';
import { Subject } from 'rxjs';
import { inWords } from '../api/api';
import { Session } from '../signedIn/session';
import { DevicePreferences } from '../device/devicePreferences';

/** The settings, over the open place from the right. Loaded when they are asked for; `closed` once they are gone again. */
@Component({
  selector: 'vane-settings-drawer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatButtonToggleModule, MatSidenavModule, RouterLink],
  template: `
    <mat-sidenav-container hasBackdrop>
      <mat-sidenav
        #drawer
        mode="over"
        position="end"
        [autoFocus]="'first-tabbable'"
        (openedChange)="$event || shut.next()"
      >
        <section i18n-aria-label aria-label="Settings">
          <h2 i18n>Settings</h2>
          <p class="faint">{{ session.me()?.school?.name }}</p>

          @if (session.me()?.school?.demo) {
            <p i18n>
              This is the demo.
              <a routerLink="/set-up" (click)="drawer.close()">Start your own school</a>
            </p>
          }

          <h3 i18n id="theme-name">Appearance</h3>
          <mat-button-toggle-group
            [value]="device.theme()"
            (change)="device.setTheme($event.value)"
            aria-labelledby="theme-name"
            hideSingleSelectionIndicator
          >
            <mat-button-toggle i18n value="system">same as device</mat-button-toggle>
            <mat-button-toggle i18n value="light">light</mat-button-toggle>
            <mat-button-toggle i18n value="dark">dark</mat-button-toggle>
          </mat-button-toggle-group>
          <p i18n class="faint">The child’s stage looks the same in both.</p>

          <h3 i18n id="side-name">Numbers on the carpet</h3>
          <mat-button-toggle-group
            [value]="device.side()"
            (change)="device.setSide($event.value)"
            aria-labelledby="side-name"
            hideSingleSelectionIndicator
          >
            <mat-button-toggle i18n value="left">left of the stage</mat-button-toggle>
            <mat-button-toggle i18n value="right">right of the stage</mat-button-toggle>
          </mat-button-toggle-group>
          <p i18n class="faint">On the side of the answering hand.</p>

          @if (session.me()?.adult?.role === 'lead') {
            <h3 i18n>School</h3>
            <p i18n>
              <a routerLink="/school" (click)="drawer.close()">Classes and adults of {{ session.me()?.school?.name }}</a
              >, and the end of the school year.
            </p>
          }

          <h3 i18n>Guide</h3>
          <p i18n><a href="/guide" target="_blank">How to use Vane</a>, place by place.</p>

          <h3 i18n>Import and export</h3>
          <p i18n><a routerLink="/files" (click)="drawer.close()">Files</a> of this class and of the school.</p>

          <h3 i18n>Rehearse</h3>
          <p i18n>
            <a routerLink="/rehearse" (click)="drawer.close()">Try Vane with a simulated class</a>, or practise entering
            answers.
          </p>

          <h3 i18n>Before you use this with children</h3>
          <p i18n>
            <a routerLink="/before-use" (click)="drawer.close()">Safety guidance</a>: flashing, worry, small objects,
            what is stored and for how long.
          </p>

          <h3>{{ session.me()?.adult?.name }}</h3>
          <p><a i18n routerLink="/account" (click)="drawer.close()">Password, PIN and signing out everywhere</a></p>
          <button i18n matButton="outlined" type="button" (click)="signOut()">Sign out</button>
          @if (trouble()) {
            <p role="alert">{{ trouble() }}</p>
          }
        </section>
      </mat-sidenav>
    </mat-sidenav-container>
  `,
  styles: `
    mat-sidenav-container {
      position: fixed;
      inset: 0;
      z-index: 10;
      background: transparent;
    }
    mat-sidenav {
      width: min(400px, 92vw);
      background: var(--paper);
      color: var(--ink);
      border-radius: 0;
    }
    section {
      padding: 28px;
    }
    h3 {
      margin: 24px 0 8px;
    }
    mat-button-toggle-group {
      margin-bottom: 6px;
    }
  `,
})
export class SettingsDrawer {
  readonly session = inject(Session);
  readonly device = inject(DevicePreferences);
  readonly #router = inject(Router);
  /** The drawer tells of its end twice when it is shut while it still opens; the second time this component is gone. */
  readonly shut = new Subject<void>();
  readonly closed = outputFromObservable(this.shut);
  readonly drawer = viewChild.required<MatSidenav>('drawer');
  readonly trouble = signal('');

  constructor() {
    afterNextRender(() => void this.drawer().open());
  }

  signOut(): void {
    this.session.signOut().subscribe({
      next: () => {
        void this.drawer().close();
        void this.#router.navigateByUrl('/sign-in');
      },
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
