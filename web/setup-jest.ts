import '@angular/localize/init';
import 'fake-indexeddb/auto';
import { setupZonelessTestEnv } from 'jest-preset-angular/setup-env/zoneless/index.mjs';

// fake-indexeddb clones values as IndexedDB does; jsdom has no structuredClone of its own.
globalThis.structuredClone ??= (value: unknown) => JSON.parse(JSON.stringify(value)) as never;
setupZonelessTestEnv({ errorOnUnknownElements: true, errorOnUnknownProperties: true });
