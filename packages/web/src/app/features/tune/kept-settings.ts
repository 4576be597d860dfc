import { MatButton } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatTableModule } from '@angular/material/table';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { quantityOf, type Setting } from '@glenmark/core/tune';
import { NameDialog } from '../../shared/ui/name-dialog';
import { shortValue } from './ranges';
import { TuneState } from './tune-state';

/** Named settings of the moveset beside each other, and beside the dials as they are: tried, taken, kept and removed. */
@Component({
  selector: 'gm-kept-settings',
  imports: [MatButton, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './kept-settings.html',
  styleUrls: ['./panel.scss', './kept-settings.scss'],
})
export class KeptSettings {
  protected readonly state = inject(TuneState);
  private readonly dialog = inject(MatDialog);

  protected readonly kept = computed(() => this.state.workspace.machine()?.settings ?? []);
  protected readonly heads = computed(() =>
    this.kept().map(({ name, values }, i) => ({ name, values, column: `setting-${i}`, place: i })),
  );
  protected readonly columns = computed(() => ['dial', 'own', ...this.heads().map((h) => h.column)]);
  protected readonly rows = computed(() => {
    const named = new Set(this.kept().flatMap(({ values }) => Object.keys(values)));
    return this.state
      .turnables()
      .filter(({ name }) => named.has(name))
      .map(({ name, unit, value }) => ({
        name,
        unit,
        own: shortValue(value),
        cells: this.kept().map(({ values }) => {
          const kept = values[name];
          return {
            text: kept === undefined ? '' : shortValue(kept),
            isOther: kept !== undefined && kept !== value,
          };
        }),
      }));
  });

  protected tryIt(values: Setting): void {
    this.state.turnTo(values);
  }

  protected take(name: string, values: Setting): void {
    this.state.turnTo(values);
    this.state.take($localize`take the setting ${name}`);
  }

  protected remove(name: string): void {
    this.state.workspace.apply($localize`remove the setting ${name}`, [{ path: ['settings', name] }]);
  }

  /** Keeps what the dials are turned to on trial, under a name; without a trial, what the moveset has. */
  protected keep(): void {
    const data = {
      title: $localize`Keep a setting`,
      label: $localize`name`,
      action: $localize`Keep`,
      taken: this.kept().map(({ name }) => name),
    };
    this.dialog
      .open<NameDialog, NameDialog['data'], string>(NameDialog, { data })
      .afterClosed()
      .subscribe((name) => {
        if (name === undefined) return;
        const turnables = this.state.turnables();
        const own = Object.fromEntries(turnables.map((t) => [t.name, t.value]));
        const values = this.state.isTurned() ? this.state.setting() : own;
        const dials = Object.fromEntries(
          Object.entries(values).map(([dial, value]) => {
            const unit = turnables.find((t) => t.name === dial)?.unit ?? '';
            return [dial, quantityOf(Number(shortValue(value)), unit)];
          }),
        );
        const change = { path: ['settings', name], value: { dials } };
        this.state.workspace.apply($localize`keep the setting ${name}`, [change]);
      });
  }
}
