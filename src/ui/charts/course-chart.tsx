'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { BarChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import { init, use as register, type EChartsType } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import type { Verdict } from '@/core/review/verdict';

register([LineChart, BarChart, ScatterChart, GridComponent, TooltipComponent, CanvasRenderer]);

export interface CoursePoint {
  /** Chance of side 0, 0–100; null where not known. */
  chance: number | null;
  /** Seconds spent on the move that led here; null where not known. */
  seconds: number | null;
  side: 0 | 1 | null;
  /** What the move is called in a tooltip, and its verdict. */
  label: string;
  verdict: Verdict;
  turns: boolean;
  sign: string;
}

interface Colours {
  ink: string;
  soft: string;
  sheet: string;
  hatch: { ground: string; line: string };
  verdicts: Record<Exclude<Verdict, 'none'>, string>;
}

function readColours(element: HTMLElement): Colours {
  const style = getComputedStyle(element);
  const colour = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    ink: colour('ink'),
    soft: colour('soft'),
    sheet: colour('sheet'),
    hatch: { ground: colour('hatch-ground'), line: colour('hatch-line') },
    verdicts: {
      blunder: colour('blunder'),
      mistake: colour('mistake'),
      inaccuracy: colour('inaccuracy'),
      'only move': colour('good'),
    },
  };
}

/** Lines at 45 degrees, as on the dark squares of the board. */
function hatch({ ground, line }: Colours['hatch']): HTMLCanvasElement {
  const tile = document.createElement('canvas');
  tile.width = tile.height = 6;
  const pen = tile.getContext('2d')!;
  pen.fillStyle = ground;
  pen.fillRect(0, 0, 6, 6);
  pen.strokeStyle = line;
  pen.lineWidth = 1.2;
  pen.beginPath();
  for (const offset of [-6, 0, 6]) {
    pen.moveTo(offset - 1, 7);
    pen.lineTo(offset + 7, -1);
  }
  pen.stroke();
  return tile;
}

const LEFT = 22;
const RIGHT = 22;

function optionOf(points: readonly CoursePoint[], colours: Colours) {
  const turning = points.flatMap((point, ply) =>
    point.turns && point.chance !== null && point.verdict !== 'none'
      ? [
          {
            value: [ply, point.chance],
            itemStyle: {
              color:
                point.verdict === 'inaccuracy' ? colours.sheet : colours.verdicts[point.verdict],
              borderColor: colours.verdicts[point.verdict],
              borderWidth: 1.5,
            },
            label: { formatter: point.sign, color: colours.verdicts[point.verdict] },
          },
        ]
      : [],
  );
  const times = points.map(({ seconds }) => seconds ?? 0);
  const longest = Math.max(1, ...times);
  return {
    animation: false,
    grid: [
      { left: LEFT, right: RIGHT, top: 8, height: 88 },
      { left: LEFT, right: RIGHT, top: 100, height: 38 },
    ],
    xAxis: [0, 1].map((gridIndex) => ({
      type: 'value' as const,
      gridIndex,
      min: 0,
      max: Math.max(1, points.length - 1),
      show: false,
    })),
    yAxis: [
      { type: 'value' as const, min: 0, max: 100, show: false },
      { type: 'value' as const, gridIndex: 1, min: 0, max: longest, inverse: true, show: false },
    ],
    tooltip: {
      trigger: 'axis' as const,
      axisPointer: { type: 'line' as const, lineStyle: { color: colours.soft, width: 1 } },
      backgroundColor: colours.sheet,
      borderColor: colours.soft,
      textStyle: { color: colours.ink, fontSize: 13, fontFamily: 'Source Sans 3 Variable' },
      padding: [3, 8],
      renderMode: 'richText' as const,
      formatter: (items: unknown) => {
        const [item] = items as { value: [number, number] }[];
        return points[Math.round(item?.value[0] ?? 0)]?.label ?? '';
      },
    },
    series: [
      {
        type: 'line' as const,
        stack: 'course',
        data: points.map(({ chance }, ply) => [ply, chance]),
        symbol: 'none',
        lineStyle: { color: colours.ink, width: 1.6 },
        areaStyle: { color: colours.sheet, opacity: 1 },
        z: 3,
      },
      {
        type: 'line' as const,
        stack: 'course',
        data: points.map(({ chance }, ply) => [ply, chance === null ? null : 100 - chance]),
        symbol: 'none',
        lineStyle: { width: 0 },
        areaStyle: {
          color: { image: hatch(colours.hatch), repeat: 'repeat' as const },
          opacity: 1,
        },
        z: 2,
      },
      {
        type: 'line' as const,
        data: [
          [0, 50],
          [Math.max(1, points.length - 1), 50],
        ],
        symbol: 'none',
        silent: true,
        lineStyle: { color: colours.soft, type: 'dotted' as const, width: 1 },
        tooltip: { show: false },
        z: 4,
      },
      {
        type: 'scatter' as const,
        symbol: 'diamond',
        symbolSize: 15,
        data: turning,
        label: {
          show: true,
          position: 'right' as const,
          distance: 3,
          fontWeight: 'bold' as const,
          fontSize: 12,
          textBorderColor: colours.sheet,
          textBorderWidth: 3,
        },
        z: 5,
      },
      {
        type: 'bar' as const,
        xAxisIndex: 1,
        yAxisIndex: 1,
        barMaxWidth: 7,
        data: points.map(({ seconds, side }, ply) => ({
          value: [ply, seconds],
          itemStyle:
            side === 1
              ? { color: colours.ink }
              : { color: colours.sheet, borderColor: colours.ink, borderWidth: 1 },
        })),
      },
    ],
  };
}

/** The curve of the whole game with the time spent under it; a click goes to the position. */
export function CourseChart({
  points,
  ply,
  onPick,
  label,
  dark,
}: {
  points: readonly CoursePoint[];
  ply: number;
  onPick(ply: number): void;
  label: string;
  dark: boolean;
}) {
  const canvas = useRef<HTMLDivElement>(null);
  const [chart, setChart] = useState<EChartsType | null>(null);
  const [width, setWidth] = useState(0);
  const pick = useRef(onPick);
  useEffect(() => {
    pick.current = onPick;
  });

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const created = init(element);
    setChart(created);
    const observer = new ResizeObserver(() => {
      created.resize();
      setWidth(element.clientWidth);
    });
    observer.observe(element);
    created.getZr().on('click', ({ offsetX }) => {
      const [at] = created.convertFromPixel({ gridIndex: 0 }, [offsetX, 10]) as [number, number];
      if (Number.isFinite(at)) pick.current(Math.max(0, Math.round(at)));
    });
    return () => {
      observer.disconnect();
      created.dispose();
    };
  }, []);

  const key = useMemo(() => JSON.stringify(points), [points]);
  useEffect(() => {
    if (chart && canvas.current)
      chart.setOption(optionOf(points, readColours(canvas.current)), true);
    // the key stands for the points
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [chart, key, dark]);

  const span = Math.max(1, points.length - 1);
  const left = Math.round(LEFT + ((width - LEFT - RIGHT) * ply) / span);
  return (
    <>
      <div
        ref={canvas}
        className="course-canvas"
        role="img"
        aria-label={label}
        data-testid="course"
      />
      {width > 0 && <div className="hairline" style={{ left }} data-testid="hairline" />}
    </>
  );
}
