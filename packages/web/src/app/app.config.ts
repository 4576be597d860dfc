import { OverlayContainer } from '@angular/cdk/overlay';
import { provideHttpClient, withFetch } from '@angular/common/http';
import { type ApplicationConfig, provideBrowserGlobalErrorListeners } from '@angular/core';
import { MAT_RIPPLE_GLOBAL_OPTIONS, MATERIAL_ANIMATIONS } from '@angular/material/core';
import {
  MAT_FORM_FIELD_DEFAULT_OPTIONS,
  type MatFormFieldDefaultOptions,
} from '@angular/material/form-field';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { routes } from './app.routes';
import { provideIcons } from './shared/ui/icons';
import { OverlayRegion } from './shared/ui/overlay-region';

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideHttpClient(withFetch()),
    {
      provide: MAT_FORM_FIELD_DEFAULT_OPTIONS,
      useValue: { appearance: 'outline', subscriptSizing: 'dynamic' } satisfies MatFormFieldDefaultOptions,
    },
    // Lists and menus are there, and gone, at once: whoever works fast would click into what fades.
    { provide: MATERIAL_ANIMATIONS, useValue: { animationsDisabled: true } },
    // Nothing ripples: in dense rows it would only blur what was pressed.
    { provide: MAT_RIPPLE_GLOBAL_OPTIONS, useValue: { disabled: true } },
    { provide: OverlayContainer, useClass: OverlayRegion },
    provideIcons(),
    provideRouter(routes, withComponentInputBinding()),
  ],
};
