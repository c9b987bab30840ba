'use client';

import { useEffect, useRef } from 'react';
import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import { init, use as register } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';

register([LineChart, GridComponent, LegendComponent, TooltipComponent, CanvasRenderer]);

/** What a line is called, and its points from left to right; days are `YYYY-MM-DD`. */
export interface ChartLine {
  name: string;
  points: readonly (readonly [x: string | number, y: number])[];
}

/** Told apart by their strokes as well. */
const STROKES = ['solid', 'dashed', 'dotted'] as const;
const MARKS = ['circle', 'rect', 'triangle', 'diamond'] as const;

/** Lines over days or over numbers; `dark` draws them anew in the other colours. */
export function LineGraph({
  lines,
  over,
  label,
  dark,
}: {
  lines: readonly ChartLine[];
  over: 'days' | 'numbers';
  label: string;
  dark: boolean;
}) {
  const canvas = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = canvas.current!;
    const chart = init(element);
    const style = getComputedStyle(element);
    const colour = (name: string): string => style.getPropertyValue(`--${name}`).trim();
    const [ink, soft, rule] = [colour('ink'), colour('soft'), colour('rule')];
    const colours = [colour('seal'), ink, soft];
    chart.setOption({
      animation: false,
      color: colours,
      textStyle: { color: ink, fontFamily: style.fontFamily },
      // more names than fit are turned over, so that they never lie upon the lines
      legend: { type: 'scroll', top: 0, textStyle: { color: ink }, pageTextStyle: { color: soft } },
      tooltip: { trigger: 'item' },
      grid: { left: 48, right: 16, top: 32, bottom: 28 },
      xAxis: {
        type: over === 'days' ? 'time' : 'value',
        scale: true,
        axisLabel: { color: soft },
        axisLine: { lineStyle: { color: rule } },
        splitLine: { show: false },
      },
      yAxis: {
        type: 'value',
        scale: true,
        axisLabel: { color: soft },
        splitLine: { lineStyle: { color: rule } },
      },
      series: lines.map(({ name, points }, index) => ({
        type: 'line',
        name,
        data: points.map((point) => [...point]),
        symbol: MARKS[index % MARKS.length],
        symbolSize: 5,
        lineStyle: { width: 1.5, type: STROKES[index % STROKES.length] },
      })),
    });
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(element);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [lines, over, dark]);
  return <div ref={canvas} className="line-graph" role="img" aria-label={label} />;
}
