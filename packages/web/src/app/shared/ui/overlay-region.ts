import { OverlayContainer } from '@angular/cdk/overlay';
import { Injectable } from '@angular/core';

/** What is opened over the page, menus, lists and hints, lies in a region of its own for who goes by regions. */
@Injectable()
export class OverlayRegion extends OverlayContainer {
  protected override _createContainer(): void {
    super._createContainer();
    this._containerElement?.setAttribute('role', 'region');
    this._containerElement?.setAttribute('aria-label', $localize`Menus and dialogs`);
  }
}
