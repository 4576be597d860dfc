import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { formatDate } from '@angular/common';
import { Router, RouterLink } from '@angular/router';
import type { ApiError } from '../../data/api';
import type { Desk } from '../../data/desk';
import { addressOf } from './address';
import { Notifications } from '../ui/notifications';

/** What stands in the way of a document that is open: another window saved it first, or the server will not take it. */
@Component({
  selector: 'gm-desk-notice',
  imports: [MatButton, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './desk-notice.html',
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
