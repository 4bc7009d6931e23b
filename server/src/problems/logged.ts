import { DriverException } from '@mikro-orm/core';

/**
 * What may be written to a log of an error: what kind it is, and where it came from. A database's error holds the statement with its values, children's answers among them: of those
 * only PostgreSQL's code and the constraint's name are said.
 */
export function logged(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { kind: typeof error };
  const frames = (error.stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
  const at = frames.slice(0, 4).map((line) => line.trim());
  if (error instanceof DriverException) {
    const { constraint } = error as DriverException & { constraint?: unknown };
    return { kind: error.name, code: error.code, ...(typeof constraint === 'string' ? { constraint } : {}), at };
  }
  return { kind: error.name, at };
}
