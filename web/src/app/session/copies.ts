/** What the offline worker keeps of the record, by the name it keeps it under. */
export const RECORD = 'vane-record';
/** A cache without anything in it: while it is there the worker may keep copies. An answer may be on its way when they are taken away. */
export const MAY_KEEP = 'vane-may-keep';

/** An adult is signed in: the device may keep copies of what it reads. */
export async function allowCopies(): Promise<void> {
  if ('caches' in globalThis) await caches.open(MAY_KEEP);
}

/** Takes the device's copies of the record away: whoever signs in next must not see them. */
export async function dropCopies(): Promise<void> {
  if (!('caches' in globalThis)) return;
  await caches.delete(MAY_KEEP);
  await caches.delete(RECORD);
}

/** Lets the application start without a network from now on. A browser that does not know how goes without. */
export function keepForOffline(): void {
  if (!('serviceWorker' in navigator)) return;
  // A failure leaves Vane as it is with a network; the next start tries again.
  navigator.serviceWorker.register('/offline.js').catch((error: unknown) => {
    console.warn('Vane cannot be kept for use without a network:', error);
  });
}
