/** Vane was told something that it cannot start with: in words for whoever starts it. */
export class CannotStart extends Error {}

/** Does something that Vane starts with; where that cannot be, says why and ends this process. */
export async function orEnd<T>(begin: () => T | Promise<T>): Promise<T> {
  try {
    return await begin();
  } catch (error) {
    if (!(error instanceof CannotStart)) throw error;
    process.stderr.write(`Vane cannot start:\n${error.message}\n`);
    process.exit(1);
  }
}
