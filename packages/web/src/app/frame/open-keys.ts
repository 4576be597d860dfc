import { inject, Injectable } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';

/** Opens the sheet of keys, which is read when it is asked for. */
@Injectable({ providedIn: 'root' })
export class OpenKeys {
  private readonly dialog = inject(MatDialog);

  async open(): Promise<void> {
    if (this.dialog.openDialogs.length > 0) return;
    const { KeysSheet } = await import('./keys-sheet');
    this.dialog.open(KeysSheet, { width: '1080px', maxWidth: '94vw' });
  }
}
