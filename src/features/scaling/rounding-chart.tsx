'use client';

import type { ChartOptions } from 'chart.js';
import { useMemo } from 'react';
import { Line } from 'react-chartjs-2';
import { pointsOf } from '../../core/scaling/points';
import { add, decimalText, divide, ratio, subtract, type Rational } from '../../core/scaling/rational';
import { ROUNDING_TEXT } from '../../core/scaling/rounding';
import { drawn } from '../../core/scaling/speed-scale';
import '../../ui/chart-parts';
import { colour } from '../../ui/colour';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

/** Values in the plot, and how many counts it reaches to each side: about as many as show the saw's teeth. */
const VALUES = 241;
const COUNTS_BESIDE = 6n;

/** What rounding costs around the wanted value, count by count. */
export function RoundingChart({ scale: { chain, fullValue, fullRaw }, wanted }: PartProps) {
  const reach = divide(divide(fullValue, fullRaw), ratio(1n, COUNTS_BESIDE));
  const points = useMemo(() => around(chain, wanted, reach), [chain, wanted, reach]);
  const worst = points.reduce((most, { y }) => Math.max(most, Math.abs(y)), 0);
  const options: ChartOptions<'line'> = {
    animation: false,
    maintainAspectRatio: false,
    parsing: false,
    plugins: { legend: { display: false } },
    scales: {
      x: {
        type: 'linear',
        title: { display: true, text: `wanted, ${chain.unit}` },
        min: points[0]?.x,
        max: points[points.length - 1]?.x,
      },
      y: { title: { display: true, text: `sent − wanted, ${chain.unit}` } },
    },
  };
  return (
    <>
      <p className={styles.note}>
        Around {decimalText(wanted, 4)} {chain.unit}, {ROUNDING_TEXT[chain.rounding]}: at most {worst.toPrecision(3)}{' '}
        {chain.unit} here; one count is {decimalText(divide(fullValue, fullRaw), 6)} {chain.unit}.
      </p>
      <div className={styles.plot}>
        <Line
          data={{
            datasets: [{ data: points, borderColor: colour('copper'), borderWidth: 1.5, pointRadius: 0, tension: 0 }],
          }}
          options={options}
          aria-label={`Rounding error around ${decimalText(wanted, 4)} ${chain.unit}`}
          role="img"
        />
      </div>
    </>
  );
}

const around = (chain: PartProps['scale']['chain'], wanted: Rational, reach: Rational) =>
  pointsOf(chain, subtract(wanted, reach), add(wanted, reach), VALUES).map(({ wanted: at, cost }) => ({
    x: drawn(at),
    y: drawn(cost),
  }));
