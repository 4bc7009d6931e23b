/** A value that is read and not changed, at every depth: what either side hands to the other. */
export type Told<T> = T extends object ? { readonly [K in keyof T]: Told<T[K]> } : T;
