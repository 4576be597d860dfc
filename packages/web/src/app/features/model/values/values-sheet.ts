import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { namesOf } from '@glenmark/core/kits';
import { rename } from '@glenmark/core/machine';
import { type Change, errorsOf } from '@glenmark/core/model';
import type { SymbolKind } from '@glenmark/core/notation';
import { Workspace } from '../../../data/workspace';
import { FieldRow } from '../../../shared/document/field-row';
import { NameDialog } from '../../../shared/ui/name-dialog';
import { ChargesPicture } from './charges-picture';
import { ControlKeys } from './control-keys';
import { DialSlider } from './dial-slider';
import { controlRows } from './controls';
import { dialRows } from '../../../shared/document/dials';
import { StancesDrawing } from './stances-drawing';
import { type Section, sectionsOf } from './declarations';
import { Notifications } from '../../../shared/ui/notifications';

/** What the states are made of: dials, controls, the body, and everything the character remembers. */
@Component({
  selector: 'gm-values-sheet',
  imports: [MatButton, DialSlider, ControlKeys, FieldRow, ChargesPicture, MatMenuModule, StancesDrawing],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './values-sheet.html',
  styleUrl: './values-sheet.scss',
})
export class ValuesSheet {
  private readonly workspace = inject(Workspace);
  private readonly dialog = inject(MatDialog);
  private readonly notifications = inject(Notifications);

  private readonly machine = computed(() => this.workspace.machine()!);
  private readonly file = computed(() => this.workspace.compiled().file!);
  protected readonly dials = computed(() => dialRows(this.machine(), this.file()));
  protected readonly controls = computed(() => controlRows(this.machine()));
  protected readonly sections = computed(() => sectionsOf(this.machine(), this.file()));

  /** Adds a thing under a name that is asked for. */
  protected add(path: Section['path'], label: string, value: unknown): void {
    this.askName($localize`New ${label}`, $localize`Name`, $localize`Add`).subscribe((name) => {
      if (name !== undefined)
        this.apply($localize`add the ${label} ${name}`, [{ path: [...path, name], value }]);
    });
  }

  protected addDial(): void {
    this.add(['dials'], $localize`dial`, { value: '1 m/s', min: '0 m/s', max: '10 m/s', step: '0.1 m/s' });
  }

  protected addControl(kind: 'button' | 'axis' | 'aim'): void {
    const value = {
      button: { button: [] },
      axis: { axis: { negative: [], positive: [] } },
      aim: { aim: 'pointer' },
    }[kind];
    this.add(['controls'], kind, value);
  }

  protected rename(kind: SymbolKind, from: string): void {
    this.askName($localize`Rename ${from}`, $localize`New name`, $localize`Rename`).subscribe((to) => {
      if (to === undefined) return;
      const text = rename(this.workspace.text(), this.machine(), kind, from, to);
      this.notifications.unlessDone(
        errorsOf(this.workspace.replace($localize`rename ${from} to ${to}`, text))[0],
      );
    });
  }

  protected remove(name: string, path: Section['path']): void {
    this.apply($localize`remove ${name}`, [{ path }]);
  }

  private askName(title: string, label: string, action: string) {
    const taken = namesOf(this.machine()).map((n) => n.name);
    return this.dialog
      .open<NameDialog, NameDialog['data'], string>(NameDialog, { data: { title, label, action, taken } })
      .afterClosed();
  }

  private apply(name: string, changes: Change[]): void {
    this.notifications.unlessDone(this.workspace.apply(name, changes)[0]);
  }
}
