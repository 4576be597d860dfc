import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { RouterLink, RouterOutlet } from '@angular/router';
import { Workspace } from '../data/workspace';

/** Opens the moveset of the address, and says what stands in the way: it is gone, or two windows changed it. */
@Component({
  selector: 'gm-moveset-frame',
  imports: [RouterOutlet, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(window:pagehide)': 'workspace.flush()' },
  template: `
    @if (workspace.theirs(); as theirs) {
      <p class="notice" role="alert">
        Another window saved revision {{ theirs.revision }} first. Your changes are kept here; choose what
        stands.
        <button type="button" class="plain-button small first" (click)="workspace.resolve('mine')">
          Keep mine, on top of theirs
        </button>
        <button type="button" class="plain-button small" (click)="workspace.resolve('theirs')">
          Take theirs (undo brings mine back)
        </button>
      </p>
    }
    @if (workspace.problem(); as problem) {
      <p class="notice" role="alert">{{ problem }} <a routerLink="/">To the shelf</a></p>
    }
    @if (workspace.machine()) {
      <router-outlet />
    } @else if (workspace.compiled().diagnostics.length > 0) {
      <section class="unreadable">
        <h2>This moveset does not load</h2>
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
    .notice {
      padding: 8px 14px;
      background: var(--rowan-wash);
      border-bottom: 1px solid var(--rule-2);
      display: flex;
      gap: 10px;
      align-items: center;
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
    effect(() => this.workspace.open(this.id()));
  }
}
