import { InjectionToken, inject } from '@angular/core';
import type { Observable } from 'rxjs';
import { filter, fromEvent, map, merge, timer } from 'rxjs';
import type { Hint } from './live';
import { Live } from './live';

/** How often it is asked what others did while the server does not tell. Milliseconds. */
const LOOK_EVERY = 4000;

/** When to exchange besides after a change that was made here: what the server told of, or nothing where it is only time to look. */
export const LOOK = new InjectionToken<Observable<readonly Hint[] | undefined>>(
  'when to look for what others did',
  {
    providedIn: 'root',
    factory: () => {
      const live = inject(Live);
      return merge(
        live.hints,
        merge(
          timer(LOOK_EVERY, LOOK_EVERY).pipe(filter(() => !live.isConnected() || live.mustLook())),
          fromEvent(window, 'online'),
          fromEvent(document, 'visibilitychange'),
        ).pipe(map(() => undefined)),
      );
    },
  },
);
