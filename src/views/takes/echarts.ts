import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import type { TakeLock } from '@/core/measure';
import { say } from '@/core/words';

use([LineChart, GridComponent, LegendComponent, MarkLineComponent, TooltipComponent, SVGRenderer]);

/** Draws a take's lock and light into `place`; returns what takes it away again. */
export function draw(place: HTMLElement, lock: TakeLock): () => void {
  const chart = init(place, null, { renderer: 'svg' });
  const css = getComputedStyle(document.documentElement);
  const colour = (name: string) => css.getPropertyValue(`--color-${name}`).trim();
  const series = (pick: (r: TakeLock['readings'][number]) => number) =>
    lock.readings.map((r, i) => [lock.times[i], r.trusted ? pick(r) : null]);
  const axis = {
    axisLabel: { color: colour('faint') },
    axisLine: { lineStyle: { color: colour('rule') } },
    splitLine: { lineStyle: { color: colour('rule') } },
  };
  const line = { type: 'line' as const, showSymbol: false };
  chart.setOption({
    animation: false,
    textStyle: { fontFamily: 'Recursive Variable' },
    grid: { left: 54, right: 62, top: 36, bottom: 24 },
    legend: { top: 0, textStyle: { color: colour('ink') } },
    tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => (typeof v === 'number' ? v.toFixed(3) : '–') },
    xAxis: { type: 'value', max: 'dataMax', ...axis, axisLabel: { ...axis.axisLabel, formatter: '{value} s' }, splitLine: { show: false } },
    yAxis: [
      {
        type: 'value',
        min: (v: { min: number }) => Math.min(-0.5, Math.floor(v.min)),
        max: (v: { max: number }) => Math.max(0.5, Math.ceil(v.max)),
        ...axis,
        axisLabel: { ...axis.axisLabel, formatter: '{value} px' },
      },
      {
        type: 'value',
        min: (v: { min: number }) => Math.min(-0.1, v.min),
        max: (v: { max: number }) => Math.max(0.1, v.max),
        ...axis,
        axisLabel: { ...axis.axisLabel, formatter: (v: number) => `${v.toFixed(2)} EV` },
        splitLine: { show: false },
      },
    ],
    series: [
      {
        ...line,
        name: say`sideways`,
        data: series((r) => r.dx),
        lineStyle: { color: '#2f6d70', width: 2 },
        itemStyle: { color: '#2f6d70' },
        markLine: {
          symbol: 'none',
          lineStyle: { color: colour('mark'), type: 'solid', width: 1.5 },
          label: { formatter: say`bump`, color: colour('mark') },
          data: lock.bumps.map((b) => ({ xAxis: b.time })),
        },
      },
      {
        ...line,
        name: say`up and down`,
        data: series((r) => r.dy),
        lineStyle: { color: '#b5472f', width: 2, type: 'dashed' },
        itemStyle: { color: '#b5472f' },
      },
      {
        ...line,
        name: say`light`,
        yAxisIndex: 1,
        data: lock.exposures.map((e, i) => [lock.times[i], e]),
        lineStyle: { color: '#b98722', width: 2, type: 'dotted' },
        itemStyle: { color: '#b98722' },
      },
    ],
  });
  // The watcher calls once as soon as it watches: with the size the chart has already.
  const watch = new ResizeObserver(() => {
    if (place.clientWidth !== chart.getWidth()) chart.resize();
  });
  watch.observe(place);
  return () => {
    watch.disconnect();
    chart.dispose();
  };
}
