'use client';

import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { BarChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, TooltipComponent } from 'echarts/components';
import { init, use as register, type EChartsType } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import type { Verdict } from '@/core/review/verdict';

register([LineChart, BarChart, ScatterChart, GridComponent, TooltipComponent, CanvasRenderer]);

export interface CoursePoint {
  /** Chance of side 0, 0–100; null where not known. */
  chance: number | null;
  /** The position is known exactly: the game is over, or tables of endings have it. */
  isExact: boolean;
  /** Seconds spent on the move that led here; null where not known. */
  seconds: number | null;
  side: 0 | 1 | null;
  /** What the move is called in a tooltip, and its verdict. */
  label: string;
  verdict: Verdict;
  turns: boolean;
  /** The move lets the other side give mate by force. */
  intoMate: boolean;
  sign: string;
  /** The name of the part of the game. */
  phase: string;
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
      'very good': colour('good'),
      good: colour('good'),
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
  const turning = points.flatMap((point, ply) => {
    if (point.chance === null) return [];
    // in a lost position a mate costs no more, but it is a mark of its own
    if (point.intoMate && !point.turns)
      return [
        {
          value: [ply, point.chance],
          symbolSize: 9,
          itemStyle: { color: colours.sheet, borderColor: colours.ink, borderWidth: 1.5 },
          label: { formatter: '#', color: colours.ink },
        },
      ];
    return point.turns && point.verdict !== 'none'
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
      : [];
  });
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
      // what is known for certain is a broad line
      {
        type: 'line' as const,
        data: points.map(({ chance, isExact }, ply) => [ply, isExact ? chance : null]),
        symbol: 'none',
        silent: true,
        lineStyle: { color: colours.ink, width: 4.5 },
        tooltip: { show: false },
        z: 4,
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

/** A stretch of the game, by its first and last ply. */
export interface Stretch {
  from: number;
  to: number;
}

/** Plies that the pointer has to cross before a press becomes a stretch. */
const LEAST_STRETCH = 2;

/** The curve of the whole game with the time spent under it; a click picks a ply, a drag a stretch. */
export function CourseChart({
  points,
  ply,
  stretch,
  onPick,
  onStretch,
  onHover,
  label,
  known,
  dark,
}: {
  points: readonly CoursePoint[];
  ply: number;
  stretch: Stretch | null;
  onPick(ply: number): void;
  onStretch(stretch: Stretch | null): void;
  /** @param at where over the chart, in pixels from its left; null: the pointer has left */
  onHover(ply: number, at: number | null): void;
  label: string;
  /** As far as a base holds the game, with its name. */
  known: { to: number; label: string } | null;
  dark: boolean;
}) {
  const canvas = useRef<HTMLDivElement>(null);
  const [chart, setChart] = useState<EChartsType | null>(null);
  const [width, setWidth] = useState(0);
  const pressed = useRef<number | null>(null);

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
  const inner = Math.max(1, width - LEFT - RIGHT);
  const leftOf = (at: number): number => Math.round(LEFT + (inner * at) / span);
  const plyAt = ({ clientX, currentTarget }: PointerEvent<HTMLDivElement>): number => {
    const x = clientX - currentTarget.getBoundingClientRect().left;
    return Math.max(0, Math.min(span, Math.round(((x - LEFT) / inner) * span)));
  };
  const stretchTo = (at: number): Stretch | null => {
    const { current: from } = pressed;
    return from === null || Math.abs(at - from) < LEAST_STRETCH
      ? null
      : { from: Math.min(from, at), to: Math.max(from, at) };
  };
  return (
    <>
      <div
        ref={canvas}
        className="course-canvas"
        role="img"
        aria-label={label}
        data-testid="course"
        onPointerDown={(event) => {
          pressed.current = event.button === 0 ? plyAt(event) : null;
        }}
        onPointerMove={(event) => {
          const at = plyAt(event);
          onHover(at, leftOf(at));
          const drawn = stretchTo(at);
          if (drawn) onStretch(drawn);
        }}
        onPointerUp={(event) => {
          const at = plyAt(event);
          const drawn = stretchTo(at);
          const wasPressed = pressed.current !== null;
          pressed.current = null;
          if (drawn) onStretch(drawn);
          else if (wasPressed) {
            onStretch(null);
            onPick(at);
          }
        }}
        onPointerLeave={() => {
          pressed.current = null;
          onHover(0, null);
        }}
      />
      {width > 0 && stretch && (
        <div
          className="course-stretch"
          style={{ left: leftOf(stretch.from), width: leftOf(stretch.to) - leftOf(stretch.from) }}
        />
      )}
      {width > 0 && known !== null && known.to > 0 && (
        <div
          className="course-known"
          style={{ left: leftOf(0), width: leftOf(known.to) - leftOf(0) }}
          role="img"
          aria-label={known.label}
          title={known.label}
        />
      )}
      {width > 0 &&
        bordersOf(points).map(({ at, phase }, index, borders) => (
          <div
            key={at}
            className="course-phase"
            style={{
              left: leftOf(at),
              width: leftOf(borders[index + 1]?.at ?? points.length - 1) - leftOf(at),
            }}
          >
            {phase}
          </div>
        ))}
      {width > 0 && (
        <div className="hairline" style={{ left: leftOf(ply) }} data-testid="hairline" />
      )}
    </>
  );
}

/** Where each phase begins. */
const bordersOf = (points: readonly CoursePoint[]): { at: number; phase: string }[] =>
  points.flatMap(({ phase }, at) => (phase === points[at - 1]?.phase ? [] : [{ at, phase }]));
