import '@angular/localize/init';
import 'fake-indexeddb/auto';
import { wrongIn } from '@vane/contract/routes';
import { setupZonelessTestEnv } from 'jest-preset-angular/setup-env/zoneless/index.mjs';
import { checkAnswers } from './src/app/api/asDescribed';

// What tests answer for the server is what the server could answer.
checkAnswers(wrongIn);

// fake-indexeddb clones values as IndexedDB does; jsdom has no structuredClone of its own.
globalThis.structuredClone ??= (value: unknown) => JSON.parse(JSON.stringify(value)) as never;
setupZonelessTestEnv({ errorOnUnknownElements: true, errorOnUnknownProperties: true });
