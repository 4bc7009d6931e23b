import { svgOf } from './saveChart';

it('takes the drawing out of the page as an SVG of its own', () => {
  const host = document.createElement('div');
  expect(svgOf(host)).toBeNull();
  host.innerHTML =
    '<div><svg width="300" height="120" style="background:red"><style>x</style><foreignObject>legend</foreignObject><path d="M0 0L9 9"/></svg></div>';
  const made = svgOf(host);
  expect([made?.width, made?.height]).toEqual([300, 120]);
  expect(made?.svg).toContain('viewBox="0 0 300 120"');
  expect(made?.svg).toContain('M0 0L9 9');
  expect(made?.svg).not.toMatch(/style|foreignObject|legend/);
});
