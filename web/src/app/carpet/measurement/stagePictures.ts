import { drawPicture, type Picture } from '@vane/core';
import { carpetWords } from '../../language/carpetWords';

/** `core`'s pictures as elements of the page. */
function element(svg: string): SVGElement {
  const parsed = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement;
  return document.importNode(parsed, true) as unknown as SVGElement;
}

/** What is shown, and what covers it after a flash. */
export function stagePicture(picture: Picture): { readonly picture: SVGElement; readonly cover: SVGElement } {
  const { svg, cover } = drawPicture(picture, carpetWords.pictures);
  return { picture: element(svg), cover: element(cover) };
}
