import { inject, Injectable } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';

/** Opens what a moveset can be taken out as; loaded when somebody asks for it. */
@Injectable({ providedIn: 'root' })
export class OpenExport {
  private readonly dialog = inject(MatDialog);

  async open(): Promise<void> {
    const { ExportDialog } = await import('./export-dialog');
    this.dialog.open(ExportDialog, { width: '900px', maxWidth: '94vw' });
  }
}
