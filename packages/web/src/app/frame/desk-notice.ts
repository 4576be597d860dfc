import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Desk } from '../data/desk';

/** What stands in the way of a document that is open: another window saved it first, or it cannot be read. */
@Component({
  selector: 'gm-desk-notice',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (desk().theirs(); as theirs) {
      <p role="alert">
        <span i18n>
          Another window saved revision {{ theirs.revision }} {{ of() }} first. Your changes are kept here;
          choose what stands.
        </span>
        <button i18n type="button" class="plain-button small first" (click)="desk().resolve('mine')">
          Keep mine, on top of theirs
        </button>
        <button i18n type="button" class="plain-button small" (click)="desk().resolve('theirs')">
          Take theirs (undo brings mine back)
        </button>
      </p>
    }
    @if (desk().problem(); as problem) {
      <p role="alert">{{ problem }} <a i18n routerLink="/">To the shelf</a></p>
    }
  `,
  styles: `
    p {
      padding: 8px 14px;
      background: var(--rowan-wash);
      border-bottom: 1px solid var(--rule-2);
      display: flex;
      flex-wrap: wrap;
      gap: 6px 10px;
      align-items: center;
    }
  `,
})
export class DeskNotice {
  readonly desk = input.required<Desk>();
  /** What it is a revision of, where that is not plain: “of the tape”. */
  readonly of = input('');
}
