/** A colour of the look by its name, as it is just now: for what is drawn and cannot take a style sheet's word. */
export const colour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--bujo-palette-bench-${name}`).trim();
