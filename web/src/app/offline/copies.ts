import type { Me } from '@vane/contract';

/** What the offline worker keeps of the record, by the name it keeps it under. */
export const RECORD = 'vane-record';
/** What is kept of it, by the server's addresses. */
export const KEPT =
  /^\/api\/(me|classes\/[^/]+(\/(readings|over-time|measuring\/[^/]+|children\/[^/]+(\/over-time)?))?)$/;
/** Whether a copy goes when the server says that there is nothing at an address, or not for this adult: what is below it, and of a class all. */
export function goesWith(copy: string, refused: string): boolean {
  const [, , , classId = '', part, child] = refused.split('/');
  const gone = part === 'children' ? `/api/classes/${classId}/children/${child ?? ''}` : `/api/classes/${classId}`;
  return copy === gone || copy.startsWith(`${gone}/`);
}

/** An empty cache as a flag: while it exists the worker may keep copies. A response may still arrive after they are deleted. */
export const MAY_KEEP = 'vane-may-keep';

/** Serialised: permission given before must not take effect after the copies were deleted. */
let last: Promise<unknown> = Promise.resolve();
function inTurn(act: () => Promise<unknown>): Promise<unknown> {
  if ('caches' in globalThis) last = last.then(act, act);
  return last;
}

/** An adult is signed in: the device may keep copies of what it reads, begins with who it is, and keeps nothing of children who were deleted. */
export const allowCopies = (me: Me): Promise<unknown> =>
  inTurn(async () => {
    await caches.open(MAY_KEEP);
    const copies = await caches.open(RECORD);
    // The copy of who is signed in may be from before there was such a list.
    await dropErased(copies, (me as Partial<Me>).erased ?? []);
    await copies.put('/api/me', Response.json(me));
  });

/** Children who were deleted, perhaps on another device: every copy that names one of them goes. */
const dropErased = async (copies: Cache, erased: readonly string[]): Promise<void> => {
  if (erased.length === 0) return;
  for (const copy of await copies.keys()) {
    const text = `${copy.url} ${(await (await copies.match(copy))?.text()) ?? ''}`;
    if (erased.some((child) => text.includes(child))) await copies.delete(copy);
  }
};

/** Deletes the device's copies of the record: the next person to sign in must not see them. */
export const dropCopies = (): Promise<unknown> =>
  inTurn(async () => {
    await caches.delete(MAY_KEEP);
    await caches.delete(RECORD);
  });

/** What was read before there was a worker to keep it. */
async function readAgain(): Promise<void> {
  const paths = performance.getEntriesByType('resource').map(({ name }) => new URL(name).pathname);
  for (const path of new Set(paths)) if (KEPT.test(path)) await fetch(path);
}

/** Lets the application start without a network from now on. A browser that does not know how goes without. */
export function keepForOffline(): void {
  if (!('serviceWorker' in navigator)) return;
  // A failure leaves Vane as it is with a network; the next start tries again.
  const without = (error: unknown): void => console.warn('Vane cannot be kept for use without a network:', error);
  if (navigator.serviceWorker.controller === null)
    navigator.serviceWorker.addEventListener('controllerchange', () => void readAgain().catch(without), { once: true });
  navigator.serviceWorker.register('/offline.js').catch(without);
}
