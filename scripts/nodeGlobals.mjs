/** Globals of Node that the scripts use, for the linter. */
export default Object.fromEntries(
  [
    'process',
    'console',
    'URL',
    'fetch',
    'setTimeout',
    'clearTimeout',
    'setInterval',
    'clearInterval',
    'performance',
    'Buffer',
    'AbortController',
    'TextDecoderStream',
  ].map((name) => [name, 'readonly']),
);
