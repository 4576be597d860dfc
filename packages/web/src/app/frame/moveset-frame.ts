import { ChangeDetectionStrategy, Component, effect, inject, input, untracked } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Workspace } from '../data/workspace';
import { DeskNotice } from '../shared/document/desk-notice';

/** Opens the moveset of the address, and says what stands in the way: it is gone, or two windows changed it. */
@Component({
  selector: 'gm-moveset-frame',
  imports: [DeskNotice, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <gm-desk-notice [desk]="workspace" />
    @if (workspace.analysisFailed(); as failure) {
      <p role="alert" class="failure" i18n>
        The findings could not be computed: {{ failure }}. The next edit tries again.
      </p>
    }
    @if (workspace.machine()) {
      <router-outlet />
    } @else if (workspace.compiled().diagnostics.length > 0) {
      <section class="unreadable">
        <h2 i18n>This moveset does not load</h2>
        @for (d of workspace.compiled().diagnostics; track $index) {
          <p>
            <span class="mono dim">{{ d.line }}:{{ d.column }}</span> {{ d.message }}
          </p>
        }
      </section>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: 1;
      min-height: 0;
    }
    .failure {
      padding: 8px 14px;
      background: var(--rowan-wash);
      border-bottom: 1px solid var(--rule-2);
    }
    .unreadable {
      padding: 40px;
      display: grid;
      gap: 8px;
    }
  `,
})
export class MovesetFrame {
  protected readonly workspace = inject(Workspace);
  readonly id = input.required<string>();

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => this.workspace.open(id));
    });
  }
}
