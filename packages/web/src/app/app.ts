import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterOutlet } from '@angular/router';
import { TopBar } from './frame/top-bar';
import { WalkStrip } from './frame/walk/walk-strip';
import { Walk } from './shared/document/walk';

/** The whole page: a thin bar, and the view under it. */
@Component({
  selector: 'gm-root',
  imports: [MatTabsModule, RouterOutlet, TopBar, WalkStrip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <gm-top-bar [panel]="view" />
    @if (walk.done() !== undefined) {
      @defer (on immediate) {
        <gm-walk-strip />
      }
    }
    <main>
      <mat-tab-nav-panel #view><router-outlet /></mat-tab-nav-panel>
    </main>
  `,
  styles: `
    main,
    mat-tab-nav-panel {
      flex: 1;
      min-height: 0;
      display: flex;
      flex-direction: column;
    }
  `,
})
export class App {
  protected readonly walk = inject(Walk);
}
