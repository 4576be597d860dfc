import { ChangeDetectionStrategy, Component, input, model, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatSelectModule } from '@angular/material/select';
import { MatTooltip } from '@angular/material/tooltip';
import { type Tool, TOOLS } from './tools';

/** The bar above the sheet of a course: what a drag does, the grid it keeps to, and the whole sheet at once. */
@Component({
  selector: 'gm-course-tools',
  imports: [MatButton, MatButtonToggleModule, MatSelectModule, MatTooltip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'toolbar', '[attr.aria-label]': 'name' },
  templateUrl: './course-tools.html',
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 4px;
      height: 38px;
      padding: 0 14px;
      border-bottom: 1px solid var(--rule);
      flex: none;
    }
    .labelled {
      display: flex;
      align-items: center;
      gap: 6px;
      font: 500 12px var(--label);
      color: var(--ink-2);
    }
    mat-form-field {
      width: 92px;
    }
    .fill {
      flex: 1;
    }
  `,
})
export class CourseTools {
  readonly tool = input.required<Tool>();
  readonly snap = model.required<number>();
  readonly take = output<Tool>();
  readonly whole = output();
  protected readonly tools = TOOLS;
  protected readonly snaps = [0.05, 0.1, 0.25, 0.5, 1];
  protected readonly name = $localize`Tools`;
}
