import { bootstrapApplication } from '@angular/platform-browser';
import { App } from './app/app';
import { appConfig } from './app/app.config';
import { speak } from './app/language';

speak()
  .catch((error: unknown) => console.error(error))
  .then(() => bootstrapApplication(App, appConfig))
  .catch((error: unknown) => console.error(error));
