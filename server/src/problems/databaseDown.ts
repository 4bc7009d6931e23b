import { ConnectionException, DriverException } from '@mikro-orm/core';

/** True for what fails because no database answers: later it may succeed. */
export const isDatabaseDown = (error: unknown): boolean =>
  error instanceof ConnectionException ||
  (error instanceof DriverException &&
    /ECONNREFUSED|terminat|Connection|starting up|shutting down|timeout/i.test(error.message)) ||
  (error instanceof Error &&
    /ECONNREFUSED|ECONNRESET|Timeout acquiring a connection|Connection terminated|timeout exceeded when trying to connect|starting up|shutting down|terminating connection/i.test(
      error.message,
    ));
