import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { TopBar } from './frame/top-bar';

/** The whole page: a thin bar, and the view under it. */
@Component({
  selector: 'gm-root',
  imports: [RouterOutlet, TopBar],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <gm-top-bar />
    <main><router-outlet /></main>
  `,
  styles: `
    main {
      flex: 1;
      min-height: 0;
      display: flex;
      flex-direction: column;
    }
  `,
})
export class App {}
