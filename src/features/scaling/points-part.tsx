'use client';

import { pointsOf } from '../../core/scaling/points';
import { decimalText, multiply, ratio } from '../../core/scaling/rational';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

const POINTS = 11;

/** Values from minus to plus full scale with what is sent for each, for the test sheet. */
export function PointsPart({ scale: { chain, fullValue, other } }: PartProps) {
  const low = chain.word.signed ? multiply(fullValue, ratio(-1n)) : ratio(0n);
  return (
    <table className={styles.table}>
      <thead>
        <tr>
          <th scope="col">wanted, {chain.unit}</th>
          {other && <th scope="col">{other.unit}</th>}
          <th scope="col">decimal</th>
          <th scope="col">hex</th>
          <th scope="col">sent, {chain.unit}</th>
          <th scope="col">costs</th>
        </tr>
      </thead>
      <tbody>
        {pointsOf(chain, low, fullValue, POINTS).map(({ wanted, scaled, cost }) => (
          <tr key={decimalText(wanted, 6)}>
            <td>{decimalText(wanted, 3, false)}</td>
            {other && <td>{decimalText(multiply(wanted, other.factor), 1, false)}</td>}
            <td>{`${scaled.raw}`.replace('-', '−')}</td>
            <td>{scaled.hex}</td>
            <td>{decimalText(scaled.sent, 4, false)}</td>
            <td>
              {decimalText(cost, 5, false)} {chain.unit}
              {scaled.faults[0] ? `; ${scaled.faults[0].text}` : ''}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
