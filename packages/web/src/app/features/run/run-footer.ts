import { MatTooltip } from '@angular/material/tooltip';
import { MatInput } from '@angular/material/input';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatSelectModule } from '@angular/material/select';
import { MatButton } from '@angular/material/button';
import { ChangeDetectionStrategy, Component, computed, inject, model, output } from '@angular/core';
import { PlayedTape } from './played-tape';
import { Playhead } from './playhead';
import { TapeActs } from './tape-acts';

/** Playing and driving, and what can be said of the whole run. */
@Component({
  selector: 'gm-run-footer',
  imports: [MatTooltip, MatInput, MatCheckbox, MatSelectModule, MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-footer.html',
  styles: `
    :host {
      height: 36px;
      flex: none;
      display: flex;
      align-items: center;
      gap: 14px;
      padding: 0 14px;
      border-top: 1px solid var(--rule-2);
      background: var(--sheet);
      white-space: nowrap;
    }
    label,
    .labelled {
      display: flex;
      align-items: center;
      gap: 6px;
      font: 500 13px var(--label);
    }
    mat-form-field {
      width: 132px;
    }
    .length {
      width: 52px;
      font-size: 12px;
      padding: 2px 4px;
    }
    .fill {
      flex: 1;
    }
    .digest {
      font-size: 11px;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
    }
  `,
})
export class RunFooter {
  protected readonly played = inject(PlayedTape);
  protected readonly playhead = inject(Playhead);
  private readonly acts = inject(TapeActs);
  /** Whether the course moves with the body. */
  readonly follows = model.required<boolean>();
  readonly drive = output<number>();

  protected readonly drivesOn = computed(
    () => this.playhead.tick() > 0 && this.playhead.tick() < this.played.last(),
  );
  protected readonly stopped = computed(() => this.played.session()?.trace.stopped);
  protected readonly speeds = computed(() => [
    { value: 1, name: $localize`real time` },
    { value: 0.25, name: '×0.25' },
    { value: 0.05, name: '×0.05' },
    { value: 1 / (this.played.session()?.trace.machine.rate ?? 60), name: $localize`one tick per second` },
  ]);

  protected setLength(box: HTMLInputElement): void {
    this.acts.setLength(Number(box.value));
    box.value = String(this.played.editable()?.ticks ?? '');
  }
}
