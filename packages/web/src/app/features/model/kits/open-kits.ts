import { inject, Injectable } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { Workspace } from '../../../data/workspace';
import { Notifications } from '../../../shared/ui/notifications';

/** Opens the kits for a lane. They come with their texts, so they are loaded when somebody wants one. */
@Injectable({ providedIn: 'root' })
export class OpenKits {
  private readonly dialog = inject(MatDialog);
  private readonly notifications = inject(Notifications);
  private readonly workspace = inject(Workspace);

  async open(lane: number): Promise<void> {
    const { KitsDialog } = await import('./kits-dialog');
    this.dialog
      .open<unknown, { lane: number }, string>(KitsDialog, {
        data: { lane },
        width: '900px',
        maxWidth: '94vw',
      })
      .afterClosed()
      .subscribe((name) => {
        if (name === undefined) return;
        this.notifications.offerUndo($localize`“${name}” added.`).subscribe(() => this.workspace.undo());
      });
  }
}
