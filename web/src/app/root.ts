import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, NavigationError, Router, RouterOutlet } from '@angular/router';
import { filter, map } from 'rxjs';
import { Session } from './signedIn/session';
import { Header } from './shell/header';
import { IdleLock } from './signedIn/idleLock';
import { Locked } from './signedIn/locked';
import { SettingsDrawer } from './shell/settingsDrawer';
import { WholeScreen } from './device/wholeScreen';

/** The shell: header with the six places, the open place, and the settings drawer. A running sitting has the whole screen to itself. */
@Component({
  selector: 'vane-root',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet, Header, Locked, SettingsDrawer],
  template: `
    @defer (when drawerOpen(); prefetch on idle) {
      @if (drawerOpen()) {
        <vane-settings-drawer (closed)="drawerOpen.set(false)" />
      }
    } @error {
      @if (drawerOpen()) {
        <div i18n class="unloaded" role="alert">
          The settings could not be loaded: Vane’s server does not answer. Load this page again when it does.
          <button type="button" (click)="drawerOpen.set(false)">Close</button>
        </div>
      }
    }
    @if (inside() && !wholeScreen() && !locked()) {
      @defer (on immediate) {
        <vane-header [settingsOpen]="drawerOpen()" (settings)="drawerOpen.set(true)" />
      } @placeholder {
        <div class="header"></div>
      }
    }
    @if (underWay()) {
      <p i18n class="coming" role="status">Loading …</p>
    }
    @if (unloaded(); as url) {
      <div i18n class="unloaded" role="alert">
        This page could not be loaded: Vane’s server does not answer. Your answers are saved on this device.
        <button type="button" (click)="open(url)">Try again</button>
      </div>
    }
    @if (inside() && locked()) {
      @defer {
        <vane-locked />
      }
    } @else {
      <main><router-outlet /></main>
    }
  `,
  styles: `
    :host {
      display: block;
      min-height: 100vh;
      background: var(--paper);
      color: var(--ink);
    }
    .header {
      min-height: 68px;
    }
    .unloaded {
      max-width: 1280px;
      margin: 12px auto 0;
      padding: 12px 40px;
      border: 0 solid var(--lamp);
      border-width: 1px 0;
    }
    .unloaded button {
      min-height: 44px;
      margin-left: 12px;
      padding: 0 18px;
      border: 1px solid var(--ink);
      border-radius: 22px;
      background: none;
      color: inherit;
      font: inherit;
      cursor: pointer;
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
  readonly inside = computed(
    () => this.#session.me() !== null && !/^\/(sign-in|set-up|join|reset|board|helper)/.test(this.#url()),
  );
  /** The address of a place whose code did not arrive; empty when all is well. */
  readonly unloaded = toSignal(
    this.#router.events.pipe(
      filter((event) => event instanceof NavigationError || event instanceof NavigationEnd),
      map((event) => (event instanceof NavigationError ? event.url : '')),
    ),
    { initialValue: '' },
  );
  /** Another place is being fetched: the old one, or none, stands until then. */
  readonly underWay = computed(() => this.#router.currentNavigation() !== null);
  readonly wholeScreen = inject(WholeScreen).taken;
  readonly locked = this.#session.locked;

  constructor() {
    inject(IdleLock).watched().pipe(takeUntilDestroyed()).subscribe();
  }

  open(url: string): void {
    void this.#router.navigateByUrl(url);
  }
}
