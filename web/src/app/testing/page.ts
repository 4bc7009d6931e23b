import { provideHttpClient } from '@angular/common/http';
import { provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { MATERIAL_ANIMATIONS } from '@angular/material/core';
import { provideRouter } from '@angular/router';
import { DEFAULT_CARPET, type ChildView, type ClassView, type Me } from '@vane/contract';

/** What screens are tested with: an adult, two children, and the framework set up as the application does. */
export const ME: Me = {
  locked: false,
  hasPin: false,
  careRead: true,
  erased: [],
  adult: { id: 'keeper', role: 'lead', name: 'Harbour keeper', email: 'keeper@saltmarsh.example' },
  school: { name: 'Saltmarsh Infants', demo: true, timeZone: 'Europe/London', daysOff: [] },
  classes: [{ id: 'class', name: 'Curlew' }],
};
export const CHILDREN: ChildView[] = ['Oriel', 'Tamsin'].map((nickname) => ({
  id: nickname.toLowerCase(),
  nickname,
  lastAskedAt: null,
  measures: { copies: { tap: 4 }, counts: 1 },
  times: null,
  workingNumber: null,
  halfLifeDays: null,
  routinesUsed: [],
  support: [],
}));

export const CLASS: ClassView = {
  id: 'class',
  name: 'Curlew',
  children: CHILDREN,
  away: [],
  carpet: DEFAULT_CARPET,
  routinesUsed: [],
  arranged: { day: null, week: null },
};

export function configure(): void {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideHttpClient(),
      provideHttpClientTesting(),
      { provide: MATERIAL_ANIMATIONS, useValue: { animationsDisabled: true } },
      provideRouter([
        { path: 'today', children: [] },
        { path: 'log', children: [] },
        { path: 'sign-in', children: [] },
        { path: 'set-up', children: [] },
      ]),
    ],
  });
}

export const text = (fixture: ComponentFixture<unknown>): string =>
  (fixture.nativeElement as HTMLElement).textContent.replace(/\s+/g, ' ').trim();
