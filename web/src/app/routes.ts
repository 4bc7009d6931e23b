import type { Routes } from '@angular/router';
import { inside, outside, withClass } from './signedIn/guards';

/** The six places, and the two doors to them. Each place loads when it is first opened. */
export const ROUTES: Routes = [
  {
    path: 'sign-in',
    canActivate: [outside],
    title: $localize`Sign in · Vane`,
    loadComponent: () => import('./gettingIn/signIn.page').then((m) => m.SignInPage),
  },
  {
    path: 'join/:token',
    title: $localize`Join · Vane`,
    loadComponent: () => import('./gettingIn/join.page').then((m) => m.JoinPage),
  },
  {
    path: 'reset/:token',
    title: $localize`New password · Vane`,
    loadComponent: () => import('./gettingIn/reset.page').then((m) => m.ResetPage),
  },
  {
    path: 'board',
    title: $localize`Board · Vane`,
    loadComponent: () => import('./board/board.page').then((m) => m.BoardPage),
  },
  {
    path: 'board/:code',
    title: $localize`Board · Vane`,
    loadComponent: () => import('./board/board.page').then((m) => m.BoardPage),
  },
  {
    path: 'helper',
    title: $localize`Helper · Vane`,
    loadComponent: () => import('./helper/helper.page').then((m) => m.HelperPage),
  },
  {
    path: 'set-up',
    title: $localize`Set up · Vane`,
    loadComponent: () => import('./gettingIn/setUp.page').then((m) => m.SetUpPage),
  },
  {
    path: '',
    canActivate: [inside],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'today' },
      {
        path: '',
        canActivate: [withClass],
        children: [
          {
            path: 'today',
            title: $localize`Today · Vane`,
            loadComponent: () => import('./today/today.page').then((m) => m.TodayPage),
          },
          {
            path: 'week',
            title: $localize`The week · Vane`,
            loadComponent: () => import('./week/week.page').then((m) => m.WeekPage),
          },
          {
            path: 'carpet',
            title: $localize`Carpet · Vane`,
            loadComponent: () => import('./carpet/carpet.page').then((m) => m.CarpetPage),
          },
          {
            path: 'listen',
            title: $localize`Listen only · Vane`,
            loadComponent: () => import('./listen/listen.page').then((m) => m.ListenPage),
          },
          {
            path: 'children',
            title: $localize`Children · Vane`,
            loadComponent: () => import('./children/children.page').then((m) => m.ChildrenPage),
          },
          {
            path: 'children/:childId',
            title: $localize`Child · Vane`,
            loadComponent: () => import('./child/child.page').then((m) => m.ChildPage),
          },
          {
            path: 'class',
            title: $localize`Class · Vane`,
            loadComponent: () => import('./class/class.page').then((m) => m.ClassPage),
          },
          {
            path: 'log',
            title: $localize`Log · Vane`,
            loadComponent: () => import('./log/log.page').then((m) => m.LogPage),
          },
          {
            path: 'files',
            title: $localize`Import and export · Vane`,
            loadComponent: () => import('./files/files.page').then((m) => m.FilesPage),
          },
          {
            path: 'prints',
            title: $localize`Prints · Vane`,
            loadComponent: () => import('./prints/prints.page').then((m) => m.PrintsPage),
          },
          {
            path: 'prints/key-in/:code',
            title: $localize`Enter a sheet · Vane`,
            loadComponent: () => import('./prints/keyIn.page').then((m) => m.KeyInPage),
          },
        ],
      },
      {
        path: 'no-class',
        title: $localize`No class yet · Vane`,
        loadComponent: () => import('./signedIn/noClass.page').then((m) => m.NoClassPage),
      },
      {
        path: 'before-use',
        title: $localize`Before you use this with children · Vane`,
        loadComponent: () => import('./beforeUse/beforeUse.page').then((m) => m.BeforeUsePage),
      },
      {
        path: 'account',
        title: $localize`Your sign-in · Vane`,
        loadComponent: () => import('./account/account.page').then((m) => m.AccountPage),
      },
      {
        path: 'school',
        title: $localize`School · Vane`,
        loadComponent: () => import('./school/school.page').then((m) => m.SchoolPage),
      },
      {
        path: 'rehearse',
        title: $localize`Rehearse · Vane`,
        loadComponent: () => import('./rehearse/rehearse.page').then((m) => m.RehearsePage),
      },
      {
        path: 'rehearse/marking',
        title: $localize`Practise entering answers · Vane`,
        loadComponent: () => import('./rehearse/marking.page').then((m) => m.MarkingPage),
      },
    ],
  },
  { path: '**', redirectTo: 'today' },
];
