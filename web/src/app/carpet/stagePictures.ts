import { coverSvg, frame, frameSvg, numeralSvg, scatter, seeded, type Direction, type FrameLayout } from '@vane/core';

/** `core`'s pictures as elements of the page. Their names give nothing away: the child may hear them read. */
function element(svg: string): SVGElement {
  const parsed = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement;
  return document.importNode(parsed, true) as unknown as SVGElement;
}

export const framePicture = (layout: FrameLayout, count: number, direction: Direction): SVGElement =>
  element(frameSvg(frame(layout, count, direction), 'a frame'));
export const frameCover = (layout: FrameLayout, direction: Direction): SVGElement => element(coverSvg(frame(layout, 0, direction)));
export const numeralPicture = (n: number): SVGElement => element(numeralSvg(n));
/** @param seed another number, another arrangement */
export const setPicture = (count: number, seed: number): SVGElement => element(frameSvg(scatter(seeded(seed), count), 'a set'));
