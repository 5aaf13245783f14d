import { inject } from '@angular/core';
import type { CanActivateFn } from '@angular/router';
import { Router } from '@angular/router';
import { Identity } from '../state/identity';

/** Whoever the server does not know signs in first. What it said last stands while it is away. */
export const onlyKnown: CanActivateFn = async () => {
  const identity = inject(Identity);
  const router = inject(Router);
  const me = identity.me() ?? (await identity.refresh());
  return me?.standing === 'nobody' ? router.parseUrl('/sign-in') : true;
};
