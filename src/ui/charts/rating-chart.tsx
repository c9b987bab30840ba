'use client';

import { useEffect, useRef } from 'react';
import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import { init, use as register } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';

register([LineChart, GridComponent, LegendComponent, TooltipComponent, CanvasRenderer]);

/** A line of ratings: what it is called, and day (`YYYY-MM-DD`) and rating, the earliest first. */
export interface RatingLine {
  name: string;
  points: readonly (readonly [day: string, rating: number])[];
}

/** Told apart by their strokes as well. */
const STROKES = ['solid', 'dashed', 'dotted'] as const;
const MARKS = ['circle', 'rect', 'triangle', 'diamond'] as const;

/** Ratings over time; `dark` draws it anew in the other colours. */
export function RatingLines({
  lines,
  label,
  dark,
}: {
  lines: readonly RatingLine[];
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
      legend: { top: 0, textStyle: { color: ink } },
      tooltip: { trigger: 'item' },
      grid: { left: 48, right: 16, top: 32, bottom: 28 },
      xAxis: { type: 'time', axisLabel: { color: soft }, axisLine: { lineStyle: { color: rule } } },
      yAxis: {
        type: 'value',
        scale: true,
        axisLabel: { color: soft },
        splitLine: { lineStyle: { color: rule } },
      },
      series: lines.map(({ name, points }, index) => ({
        type: 'line',
        name,
        data: points.map(([day, rating]) => [day, rating]),
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
  }, [lines, dark]);
  return <div ref={canvas} className="rating-chart" role="img" aria-label={label} />;
}
