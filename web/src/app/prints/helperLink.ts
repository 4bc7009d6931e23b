import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { GroupSheetView, HelperLink } from '@vane/contract';
import { Api } from '../api/api';
import { Doing } from '../parts/doing';
import { svgSource } from '../parts/svgSource';
import { Dates } from '../signedIn/dates';
import { Session } from '../signedIn/session';

/** A sheet on a helper's phone: the link for the day, and its end. */
@Component({
  selector: 'vane-helper-link',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <h3 i18n>Sheet {{ sheet().code }} on a helper’s phone</h3>
    <p i18n class="faint">
      Whoever has the link sees these children’s nicknames and questions until the end of today, and nothing else of the
      class. What the children say goes into the log.
    </p>
    @if (made(); as link) {
      @if (link.qr; as qr) {
        <img [src]="picture(qr)" i18n-alt alt="QR code of the link" />
      } @else {
        <p i18n class="faint">
          This address works on this computer alone, as Vane is not open to other devices here. Use the printed page, or
          ask whoever looks after Vane to open it to the classroom.
        </p>
      }
      <code>{{ link.link }}</code>
      <p>
        <button i18n matButton="outlined" type="button" (click)="copy(link.link)">Copy the link</button>
      </p>
    }
    @if (sheet().linkUntil; as until) {
      <p i18n>
        Open until {{ at(until) }}.
        <button matButton type="button" (click)="end()">End the link</button>
      </p>
    }
    @if (!made()) {
      <p>
        <button matButton="outlined" type="button" [disabled]="doing.busy()" (click)="make()">
          @if (sheet().linkUntil) {
            <ng-container i18n>Make a new link</ng-container>
          } @else {
            <ng-container i18n>Make a link for today</ng-container>
          }
        </button>
      </p>
    }
    <p role="status" class="faint">{{ doing.told() }}{{ copied() }}</p>
    @if (doing.trouble()) {
      <p role="alert">{{ doing.trouble() }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin: 8px 0 16px;
      padding: 4px 0;
      border: 0 solid var(--sand);
      border-width: 1px 0;
    }
    h3 {
      font-size: 16px;
      margin: 8px 0 4px;
    }
    p {
      margin: 4px 0;
      font-size: 15px;
    }
    img {
      display: block;
      width: 180px;
      height: 180px;
    }
    :host > code {
      display: block;
      overflow-wrap: anywhere;
      font-size: 14px;
    }
  `,
})
export class HelperLinkPart {
  readonly #api = inject(Api);
  readonly #dates = inject(Dates);
  readonly #session = inject(Session);
  readonly sheet = input.required<GroupSheetView>();
  readonly changed = output();
  readonly doing = new Doing();
  readonly #code = computed(() => this.sheet().code);
  /** Told once: the server keeps no link that it could show again. */
  readonly made = linkedSignal<string, HelperLink | null>({ source: this.#code, computation: () => null });
  readonly copied = signal('');

  at(until: string): string {
    return this.#dates.time(Date.parse(until) - 1);
  }
  readonly picture = svgSource;
  make(): void {
    this.doing.run(this.#api.ask('POST /classes/:classId/group-sheets/:code/link', this.#place()), '', (link) => {
      this.made.set(link);
      this.changed.emit();
    });
  }
  end(): void {
    this.doing.run(
      this.#api.ask('DELETE /classes/:classId/group-sheets/:code/link', this.#place()),
      $localize`The link is ended.`,
      () => {
        this.made.set(null);
        this.copied.set('');
        this.changed.emit();
      },
    );
  }
  copy(link: string): void {
    navigator.clipboard.writeText(link).then(
      () => this.copied.set($localize`The link is copied.`),
      () => this.copied.set($localize`Your browser does not let Vane copy: select the link and copy it yourself.`),
    );
  }
  #place(): { classId: string; code: string } {
    return { classId: this.#session.classId(), code: this.#code() };
  }
}
