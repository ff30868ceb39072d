import { Box } from '@mui/material';
import { useLayoutEffect, useRef } from 'react';
import UPlot from 'uplot';
import 'uplot/dist/uPlot.min.css';
import type { GaugeReading } from '../api/generated/schema';
import { textFont, token } from '../theme';

interface Props {
  readings: readonly GaugeReading[];
  /** What is said of it to a reader of screens. */
  label: string;
}

const HEIGHT = 170;
const font = `12px ${textFont}`;

/** Pressure and temperature since the pipe was shut in. */
export function PressurePlot({ readings, label }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const plot = useRef<UPlot>(undefined);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const axis = {
      stroke: token.inkSoft,
      font,
      grid: { stroke: token.hairline, width: 1 },
      ticks: { show: false },
    };
    const made = new UPlot(
      {
        width: element.clientWidth,
        height: HEIGHT,
        legend: { show: false },
        cursor: { show: false },
        scales: { x: { time: false }, bar: { range: (_, low, high) => [low - 0.01, high + 0.01] }, c: {} },
        axes: [
          {
            ...axis,
            size: 30,
            values: (_, splits) => splits.map((seconds) => `${Math.round(seconds / 6) / 10} min`),
          },
          { ...axis, scale: 'bar', size: 54, values: (_, splits) => splits.map((bar) => bar.toFixed(2)) },
          {
            ...axis,
            scale: 'c',
            side: 1,
            size: 44,
            grid: { show: false },
            values: (_, splits) => splits.map((c) => `${c.toFixed(1)}°`),
          },
        ],
        series: [
          {},
          { scale: 'bar', stroke: token.dye, width: 2, points: { show: false } },
          { scale: 'c', stroke: token.straw, width: 1.5, dash: [5, 4], points: { show: false } },
        ],
      },
      [[], [], []],
      element,
    );
    plot.current = made;
    const observer = new ResizeObserver(() => made.setSize({ width: element.clientWidth, height: HEIGHT }));
    observer.observe(element);
    return () => {
      observer.disconnect();
      made.destroy();
    };
  }, []);
  useLayoutEffect(() => {
    plot.current?.setData([
      readings.map((one) => one.seconds),
      readings.map((one) => one.bar),
      readings.map((one) => one.celsius),
    ]);
  }, [readings]);
  return (
    <Box sx={{ bgcolor: token.sheet, border: `1px solid ${token.hairline}`, my: 1 }}>
      <div ref={box} role='img' aria-label={label} />
      <Box sx={{ display: 'flex', gap: 2, px: 1, pb: 0.5, fontSize: 13 }}>
        <span style={{ color: token.dye }}>━ bar</span>
        <span style={{ color: token.tightText }}>╌ °C</span>
      </Box>
    </Box>
  );
}
