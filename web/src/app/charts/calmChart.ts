import type { ApexOptions } from 'apexcharts';

/** What all of Vane's charts have in common: nothing to press, nothing that moves, its own face. */
export const calmChart = (type: 'line' | 'scatter' | 'bar', height: number): ApexOptions['chart'] => ({
  type,
  height,
  toolbar: { show: false },
  zoom: { enabled: false },
  animations: { enabled: false },
  background: 'transparent',
  fontFamily: 'Andika, sans-serif',
  parentHeightOffset: 0,
});
