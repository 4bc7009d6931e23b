/** A press counts when the finger comes down. Clicks without a pointer come from the Enter key and from screen readers. */
const isPress = (event: Event): boolean =>
  event instanceof PointerEvent && event.type === 'pointerdown' ? event.isPrimary : (event as UIEvent).detail === 0;

/**
 * Hears presses on an element outside the framework: each is timed by its own stamp and handled at once, before anything is drawn. With `name`, only those on
 * something that carries this data attribute, whose value is handed on.
 */
export function hearPresses(
  element: HTMLElement,
  name: string | null,
  signal: AbortSignal,
  pressed: (value: string, at: number) => void,
): void {
  const hear = (event: Event): void => {
    if (!isPress(event)) return;
    if (name === null) return pressed('', event.timeStamp);
    const found = (event.target as Element).closest<HTMLElement>(`[data-${name}]`);
    if (found) pressed(found.dataset[name] ?? '', event.timeStamp);
  };
  for (const type of ['pointerdown', 'click']) element.addEventListener(type, hear, { signal });
}
