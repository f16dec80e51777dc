import { bootstrapApplication } from '@angular/platform-browser';
import { appConfig } from './app/app.config';
import { Frame } from './app/frame/frame';

bootstrapApplication(Frame, appConfig).catch((error: unknown) => {
  document.body.textContent = `Nockwright could not start: ${String(error)}`;
});
