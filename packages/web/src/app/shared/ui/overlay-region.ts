import { OverlayContainer } from '@angular/cdk/overlay';
import { Injectable } from '@angular/core';

/** Menus, lists and tooltips open in a region of their own, so that a screen reader finds them among the regions. */
@Injectable()
export class OverlayRegion extends OverlayContainer {
  protected override _createContainer(): void {
    super._createContainer();
    this._containerElement?.setAttribute('role', 'region');
    this._containerElement?.setAttribute('aria-label', $localize`Menus and dialogs`);
  }
}
