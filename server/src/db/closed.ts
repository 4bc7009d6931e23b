import { DriverException } from '@mikro-orm/core';

/** A school that is carried to another Vane is closed meanwhile, and refuses every write (Migration0019). In a transaction, this statement lets what clears up or carries write all the same. */
export const ALSO_CLOSED = "set local vane.closed_too = 'on'";

const REFUSED = 'VN001';

/** True where a write was refused as its school is closed. */
export const isClosed = (error: unknown): boolean => error instanceof DriverException && error.code === REFUSED;
