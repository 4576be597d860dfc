import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { Walk } from '../shared/document/walk';
import { capsOf } from '../shared/ui/shortcuts/key-press';
import { type Place, PLACES, shortcutsOf } from '../shared/ui/shortcuts/shortcut-list';

/** All keys at a glance. */
@Component({
  selector: 'gm-keys-sheet',
  imports: [MatButton, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './keys-sheet.html',
  styleUrl: './keys-sheet.scss',
})
export class KeysSheet {
  private readonly ref = inject<MatDialogRef<KeysSheet>>(MatDialogRef);
  private readonly walk = inject(Walk);
  private readonly router = inject(Router);
  protected readonly groups = (Object.entries(PLACES) as [Place, string][]).map(([place, title]) => ({
    title,
    shortcuts: shortcutsOf(place).map(([id, { keys, what }]) => ({ id, what, presses: keys.map(capsOf) })),
  }));

  protected takeWalk(): void {
    this.ref.close();
    this.walk.start();
    void this.router.navigate(['/']);
  }
}
