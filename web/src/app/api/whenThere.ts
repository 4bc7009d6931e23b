import type { Resource } from '@angular/core';

/** Of what a resource holds, or what stands for it while nothing is there. */
export const whenThere = <T, Found, Otherwise>(
  resource: Resource<T>,
  of: (value: Exclude<T, undefined>) => Found,
  otherwise: Otherwise,
): Found | Otherwise => (resource.hasValue() ? of(resource.value() as Exclude<T, undefined>) : otherwise);
