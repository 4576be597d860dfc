import type { Routes } from '@angular/router';

/** Every view has an address; what is chosen in it is in the query (`?lane=…&state=…`, `?tape=…&tick=…`). */
export const routes: Routes = [
  {
    path: '',
    pathMatch: 'full',
    title: $localize`Shelf · Glenmark`,
    loadComponent: () => import('./shelf/shelf').then((m) => m.Shelf),
  },
  {
    path: 'moveset/:id',
    loadComponent: () => import('./frame/moveset-frame').then((m) => m.MovesetFrame),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'model' },
      {
        path: 'model',
        title: $localize`Model · Glenmark`,
        loadComponent: () => import('./model/model').then((m) => m.Model),
      },
      {
        path: 'run',
        title: $localize`Run · Glenmark`,
        loadComponent: () => import('./run/run').then((m) => m.Run),
      },
      {
        path: 'findings',
        title: $localize`Findings · Glenmark`,
        loadComponent: () => import('./findings/findings').then((m) => m.Findings),
      },
      {
        path: 'report',
        title: $localize`Report · Glenmark`,
        loadComponent: () => import('./findings/report-page').then((m) => m.ReportPage),
      },
    ],
  },
  {
    path: 'course/:id',
    title: $localize`Course · Glenmark`,
    loadComponent: () => import('./course/course-page').then((m) => m.CoursePage),
  },
  {
    path: '**',
    title: $localize`Not found · Glenmark`,
    loadComponent: () => import('./frame/not-found').then((m) => m.NotFound),
  },
];
