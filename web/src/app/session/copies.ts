/** What the offline worker keeps of the record, by the name it keeps it under. */
const RECORD = 'vane-record';

/** Takes the device's copies of the record away: whoever signs in next must not see them. */
export async function dropCopies(): Promise<void> {
  if ('caches' in globalThis) await caches.delete(RECORD);
}

/** Lets the application start without a network from now on. A browser that does not know how goes without. */
export function keepForOffline(): void {
  if (!('serviceWorker' in navigator)) return;
  // A failure leaves Vane as it is with a network; the next start tries again.
  navigator.serviceWorker.register('/offline.js').catch((error: unknown) => {
    console.warn('Vane cannot be kept for use without a network:', error);
  });
}
