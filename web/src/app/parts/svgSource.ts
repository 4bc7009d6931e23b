/** An SVG as the source of an image: nothing in it runs there. */
export const svgSource = (svg: string): string => `data:image/svg+xml,${encodeURIComponent(svg)}`;
