import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { formatDate } from '@angular/common';
import { Router, RouterLink } from '@angular/router';
import type { ApiError } from '../data/api';
import type { Desk } from '../data/desk';
import { addressOf } from './address';
import { Notifications } from '../ui/notifications';

/** What stands in the way of a document that is open: another window saved it first, or the server will not take it. */
@Component({
  selector: 'gm-desk-notice',
  imports: [MatButton, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (desk().theirs(); as theirs) {
      <p role="alert">
        <span i18n>
          Another window saved revision {{ theirs.revision }} {{ of() }} first. Your changes are kept here;
          choose what stands.
        </span>
        <button i18n type="button" matButton="filled" class="small" (click)="desk().resolve('mine')">
          Keep mine, on top of theirs
        </button>
        <button i18n type="button" matButton="outlined" class="small" (click)="desk().resolve('theirs')">
          Use theirs (undo restores mine)
        </button>
      </p>
    }
    @if (desk().problem(); as problem) {
      <p role="alert">
        <span>{{ problem }}</span>
        @if (isRefused()) {
          <span i18n>Your changes are kept in this browser.</span>
          <button i18n type="button" matButton="filled" class="small" (click)="saveAsNew()">
            Save as a new document
          </button>
          <button i18n type="button" matButton="outlined" class="small" (click)="discard()">
            Discard my changes
          </button>
        }
        <a i18n routerLink="/">To the shelf</a>
      </p>
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
  private readonly router = inject(Router);
  private readonly notifications = inject(Notifications);
  readonly desk = input.required<Desk>();
  /** What it is a revision of, where that is not plain: “of the tape”. */
  readonly of = input('');
  protected readonly isRefused = computed(() => this.desk().saveState() === 'refused');

  constructor() {
    effect(() => {
      const at = this.desk().restoredFrom();
      if (at === undefined) return;
      const time = formatDate(at, 'd MMM, HH:mm', 'en');
      this.notifications.say($localize`Your changes of ${time} had not been saved. They are restored here.`);
    });
  }

  protected saveAsNew(): void {
    this.desk()
      .saveAsNew()
      .subscribe({
        next: (made) => void this.router.navigate(addressOf(made)),
        error: (error: ApiError) => this.notifications.say(error.problem.detail),
      });
  }

  protected discard(): void {
    this.desk().discard();
    void this.router.navigate(['/']);
  }
}
