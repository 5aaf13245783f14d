import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { CrewEvents } from './state/document.events';
import { CREW_BOOK } from './sync/outbox';
import { RouterOutlet } from '@angular/router';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  selector: 'mt-app',
  imports: [RouterOutlet],
  template: '<router-outlet />',
})
export class App {
  constructor() {
    inject(Store).dispatch(CrewEvents.opened({ documentId: CREW_BOOK }));
  }
}
