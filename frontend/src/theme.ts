/** Colours of the theme (style.css), for what is drawn rather than styled: on a canvas, in a picture. */
const known = new Map<string, string>();

export function colour(name: string): string {
  let found = known.get(name);
  if (!found) {
    found = getComputedStyle(document.documentElement).getPropertyValue(`--color-${name}`).trim();
    if (found) known.set(name, found);
  }
  return found;
}
