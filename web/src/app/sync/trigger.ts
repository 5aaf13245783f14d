import { InjectionToken } from '@angular/core';
import type { Observable } from 'rxjs';
import { fromEvent, merge, timer } from 'rxjs';

/** How often other people's changes are fetched, until the server announces them. Milliseconds. */
const LOOK_EVERY = 4000;

/** When to exchange besides after a change that was made here. */
export const LOOK = new InjectionToken<Observable<unknown>>('when to look for what others did', {
  providedIn: 'root',
  factory: () =>
    merge(
      timer(LOOK_EVERY, LOOK_EVERY),
      fromEvent(window, 'online'),
      fromEvent(document, 'visibilitychange'),
    ),
});
