'use client';

import dynamic from 'next/dynamic';
import type { PartProps } from './parts';

/** Chart.js comes only when somebody looks at the plot. */
const RoundingChart = dynamic(() => import('./rounding-chart').then((part) => part.RoundingChart), {
  ssr: false,
  loading: () => <p>Drawing …</p>,
});

export const RoundingPart = (props: PartProps) => <RoundingChart {...props} />;
