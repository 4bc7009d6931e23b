import { speak } from './app/language/language';

speak()
  .then(() => import('./start'))
  .catch((error: unknown) => console.error(error));
