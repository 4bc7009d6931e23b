import { svgOf } from './saveChart';

it('takes the drawing out of the page as an SVG of its own', () => {
  const host = document.createElement('div');
  expect(svgOf(host)).toBeNull();
  host.innerHTML =
    '<div class="apexcharts-legend-series"><i class="apexcharts-legend-marker"><svg><path d="M1 1" style="transform: none"/></svg></i><b class="apexcharts-legend-text">knows</b></div>' +
    '<svg class="apexcharts-svg" width="300" height="120" style="background:red"><style>x</style><foreignObject>more</foreignObject><path d="M0 0L9 9"/></svg>';
  const made = svgOf(host);
  expect([made?.width, made?.height]).toEqual([300, 120]);
  expect(made?.svg).toContain('viewBox="0 0 300 120"');
  expect(made?.svg).toContain('M0 0L9 9');
  expect(made?.svg).not.toMatch(/style|foreignObject|more/);
  // The names of the series come along.
  expect(made?.svg).toMatch(/<path d="M1 1" transform="translate\(12 14\)"[^]*>knows<\/text>/);
});
