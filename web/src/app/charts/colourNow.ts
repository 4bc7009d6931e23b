/** A named colour as the theme has it now: charts want values, not names. */
export function colourNow(name: string): string {
  const probe = document.createElement('span');
  probe.style.color = `var(${name})`;
  // Charts have their own paper: a system that forces its colours forces none of theirs.
  probe.style.setProperty('forced-color-adjust', 'none');
  document.body.append(probe);
  const colour = getComputedStyle(probe).color;
  probe.remove();
  return colour;
}
