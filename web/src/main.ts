import { speak } from './app/language/language';

// Words that stand outside of templates are read once, when their module is: the language comes first.
speak()
  .then(async (language) => (await import('./app/bootstrap')).start(language))
  .catch((error: unknown) => console.error(error));
