import type { Routes } from '@angular/router';

export const routes: Routes = [
  { path: '', title: 'Yard · Mule Tally', loadComponent: () => import('./yard/yard').then((m) => m.Yard) },
  {
    path: 'new',
    title: 'New house · Mule Tally',
    loadComponent: () => import('./yard/new-house').then((m) => m.NewHousePage),
  },
  {
    path: 'crew',
    title: 'Crew book · Mule Tally',
    loadComponent: () => import('./crew/crew-page').then((m) => m.CrewPage),
  },
  {
    path: 'house/:houseId',
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
        title: 'Gang box · Mule Tally',
        loadComponent: () => import('./gang-box/gang-box').then((m) => m.GangBox),
      },
    ],
  },
  { path: '**', redirectTo: '' },
];
