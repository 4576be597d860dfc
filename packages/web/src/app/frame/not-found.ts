import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

@Component({
  selector: 'gm-not-found',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h1 i18n>There is nothing at this address.</h1>
    <p i18n>Nothing you made is lost. <a routerLink="/">Go to the shelf</a>.</p>
  `,
  styles: `
    :host {
      display: block;
      padding: 40px;
    }
    p {
      margin-top: 8px;
    }
  `,
})
export class NotFound {}
