import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterOutlet } from '@angular/router';
import { TopBar } from './frame/top-bar';

/** The whole page: a thin bar, and the view under it. */
@Component({
  selector: 'gm-root',
  imports: [MatTabsModule, RouterOutlet, TopBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <gm-top-bar [panel]="view" />
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
export class App {}
