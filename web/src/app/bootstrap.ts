import { bootstrapApplication } from '@angular/platform-browser';
import type { Language } from '@mule-tally/core/work';
import { App } from './app';
import { appConfig } from './app.config';
import { SPOKEN } from './state/spoken';

export const start = (language: Language) =>
  bootstrapApplication(App, {
    ...appConfig,
    providers: [...appConfig.providers, { provide: SPOKEN, useValue: language }],
  });
