import type { Routes } from '@angular/router';
import { onlyKnown } from './door/only-known';

export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in · Mule Tally',
    loadComponent: () => import('./door/sign-in').then((m) => m.SignInPage),
  },
  {
    path: 'join',
    title: 'Join · Mule Tally',
    loadComponent: () => import('./door/join').then((m) => m.JoinPage),
  },
  {
    path: 'set-up',
    title: 'Set up · Mule Tally',
    loadComponent: () => import('./door/set-up').then((m) => m.SetUpPage),
  },
  {
    path: '',
    pathMatch: 'full',
    canActivate: [onlyKnown],
    title: 'Jobs · Mule Tally',
    loadComponent: () => import('./jobs/jobs').then((m) => m.Jobs),
  },
  {
    path: 'new',
    canActivate: [onlyKnown],
    title: 'New house · Mule Tally',
    loadComponent: () => import('./jobs/new-house').then((m) => m.NewHousePage),
  },
  {
    path: 'fault',
    canActivate: [onlyKnown],
    title: 'Find a fault · Mule Tally',
    loadComponent: () => import('./jobs/service-call').then((m) => m.ServiceCallPage),
  },
  {
    path: 'crew',
    canActivate: [onlyKnown],
    title: 'Crew book · Mule Tally',
    loadComponent: () => import('./crew/crew-page').then((m) => m.CrewPage),
  },
  {
    path: 'house/:houseId',
    canActivate: [onlyKnown],
    loadComponent: () => import('./frame/frame').then((m) => m.Frame),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'pull' },
      {
        path: 'lay-out',
        title: 'Lay out · Mule Tally',
        loadComponent: () => import('./lay-out/lay-out').then((m) => m.LayOut),
      },
      {
        path: 'pull',
        title: 'Pull · Mule Tally',
        loadComponent: () => import('./pull/pull').then((m) => m.PullSheet),
      },
      {
        path: 'walk',
        title: 'Walk · Mule Tally',
        loadComponent: () => import('./walk/walk').then((m) => m.WalkSheet),
      },
      {
        path: 'make-up',
        title: 'Make up · Mule Tally',
        loadComponent: () => import('./make-up/make-up').then((m) => m.MakeUpSheet),
      },
      {
        path: 'check',
        title: 'Check · Mule Tally',
        loadComponent: () => import('./check/check').then((m) => m.CheckSheet),
      },
      {
        path: 'gang-box',
        redirectTo: 'truck',
      },
      {
        path: 'truck',
        title: 'Truck · Mule Tally',
        loadComponent: () => import('./truck/truck').then((m) => m.Truck),
      },
    ],
  },
  { path: '**', redirectTo: '' },
];
