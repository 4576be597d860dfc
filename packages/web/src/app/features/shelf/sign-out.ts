import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { Session } from '../../data/session';
import { Notifications } from '../../shared/ui/notifications';

/** Ends the session here or everywhere; nothing where the server asks nobody for a token. */
@Component({
  selector: 'gm-sign-out',
  imports: [MatButton, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (session.asksForToken()) {
      <button i18n type="button" matButton="outlined" [matMenuTriggerFor]="menu">Sign out</button>
      <mat-menu #menu="matMenu">
        <button i18n mat-menu-item type="button" (click)="signOut(false)">This browser</button>
        <button i18n mat-menu-item type="button" (click)="signOut(true)">Everybody, in every browser</button>
      </mat-menu>
    }
  `,
})
export class SignOut {
  protected readonly session = inject(Session);
  private readonly notifications = inject(Notifications);

  protected signOut(everywhere: boolean): void {
    this.session.signOut({ everywhere }, (sentence) => this.notifications.say(sentence));
  }
}
