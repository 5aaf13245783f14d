import type { ApplicationConfig } from '@angular/core';
import { isDevMode, provideBrowserGlobalErrorListeners, provideZonelessChangeDetection } from '@angular/core';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling } from '@angular/router';
import { provideServiceWorker } from '@angular/service-worker';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { routes } from './app.routes';
import { CrewEffects, HouseEffects } from './state/document.effects';
import { crewFeature, houseFeature } from './state/document.feature';
import { ExchangeEffects } from './state/exchange.effects';

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideZonelessChangeDetection(),
    provideRouter(
      routes,
      withComponentInputBinding(),
      withInMemoryScrolling({ scrollPositionRestoration: 'enabled', anchorScrolling: 'enabled' }),
    ),
    // A house keeps its records in persistent maps that cache inside; freezing them would break them.
    provideStore({}, { runtimeChecks: { strictStateImmutability: false, strictActionImmutability: false } }),
    provideState(houseFeature),
    provideState(crewFeature),
    // The shell comes at the first visit; all the rest of the app is fetched and kept once the page has come to rest.
    provideServiceWorker('ngsw-worker.js', {
      enabled: !isDevMode(),
      registrationStrategy: 'registerWhenStable:10000',
    }),
    provideEffects(HouseEffects, CrewEffects, ExchangeEffects),
  ],
};
