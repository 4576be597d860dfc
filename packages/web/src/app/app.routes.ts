import type { Routes } from '@angular/router';

/** Every view has an address; what is chosen in it is in the query (`?lane=…&state=…`, `?tape=…&tick=…`). */
export const routes: Routes = [
  {
    path: '',
    pathMatch: 'full',
    title: $localize`Shelf · Glenmark`,
    loadComponent: () => import('./features/shelf/shelf').then((m) => m.Shelf),
  },
  {
    path: 'moveset/:id',
    loadComponent: () => import('./frame/moveset-frame').then((m) => m.MovesetFrame),
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'model' },
      {
        path: 'model',
        title: $localize`Model · Glenmark`,
        loadComponent: () => import('./features/model/model').then((m) => m.Model),
      },
      {
        path: 'run',
        title: $localize`Run · Glenmark`,
        loadComponent: () => import('./features/run/run').then((m) => m.Run),
      },
      {
        path: 'tune',
        title: $localize`Tune · Glenmark`,
        loadComponent: () => import('./features/tune/tune').then((m) => m.Tune),
      },
      {
        path: 'reach',
        title: $localize`Reach · Glenmark`,
        loadComponent: () => import('./features/reach/reach').then((m) => m.Reach),
      },
      {
        path: 'findings',
        title: $localize`Findings · Glenmark`,
        loadComponent: () => import('./features/findings/findings').then((m) => m.Findings),
      },
      {
        path: 'history',
        title: $localize`History · Glenmark`,
        loadComponent: () => import('./features/history/history').then((m) => m.History),
      },
      {
        path: 'expectations',
        title: $localize`Expectations · Glenmark`,
        loadComponent: () => import('./features/expectations/wall').then((m) => m.Wall),
      },
      {
        path: 'report',
        title: $localize`Report · Glenmark`,
        loadComponent: () => import('./features/findings/report-page').then((m) => m.ReportPage),
      },
    ],
  },
  {
    path: 'course/:id',
    title: $localize`Course · Glenmark`,
    loadComponent: () => import('./features/course/course-page').then((m) => m.CoursePage),
  },
  {
    path: '**',
    title: $localize`Not found · Glenmark`,
    loadComponent: () => import('./frame/not-found').then((m) => m.NotFound),
  },
];
