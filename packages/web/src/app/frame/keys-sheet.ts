import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { KEYS } from './keys';

/** All keys at a glance. */
@Component({
  selector: 'gm-keys-sheet',
  imports: [MatButton, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 i18n>Keys</h2>
    <div class="groups">
      @for (group of groups; track group.where) {
        <section>
          <h3>{{ group.where }}</h3>
          <dl>
            @for (k of group.keys; track k[0]) {
              <dt class="mono">{{ k[0] }}</dt>
              <dd>{{ k[1] }}</dd>
            }
          </dl>
        </section>
      }
    </div>
    <p>
      <button i18n type="button" matButton="outlined" cdkFocusInitial (click)="ref.close()">Close</button>
    </p>
  `,
  styles: `
    :host {
      display: block;
      padding: 18px;
    }
    .groups {
      columns: 2;
      column-gap: 32px;
      margin: 10px 0;
    }
    section {
      break-inside: avoid;
      padding-bottom: 12px;
    }
    dl {
      display: grid;
      grid-template-columns: 74px 1fr;
      gap: 3px 8px;
      margin-top: 4px;
    }
    dt {
      font-size: 12px;
    }
    dd {
      margin: 0;
    }
    p {
      text-align: right;
    }
  `,
})
export class KeysSheet {
  protected readonly groups = KEYS;
  protected readonly ref = inject<MatDialogRef<KeysSheet>>(MatDialogRef);
}
