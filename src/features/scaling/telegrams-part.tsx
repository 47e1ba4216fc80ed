'use client';

import { placed, TELEGRAMS, UNSURE, wordsIn, type TelegramItem } from '../../core/profile/telegrams';
import styles from './scaling.module.css';

/** The standard telegrams of PROFIdrive: which word carries what, counted from 0. */
export function Telegrams() {
  return (
    <table className={styles.table} aria-label="Standard telegrams">
      <thead>
        <tr>
          <th scope="col">telegram</th>
          <th scope="col">to the drive</th>
          <th scope="col">from the drive</th>
        </tr>
      </thead>
      <tbody>
        {TELEGRAMS.map(({ number, what, out, in: back, isUnsure }) => (
          <tr key={number}>
            <td>
              {number}, {what}
              {isUnsure && <em> ({UNSURE})</em>}
            </td>
            <td>{itemsText(out)}</td>
            <td>{itemsText(back)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const itemsText = (items: readonly TelegramItem[]): string =>
  `${wordsIn(items)} words: ${placed(items)
    .map(({ at, signal, words }) => `${at}${words === 2 ? `–${at + 1}` : ''} ${signal}`)
    .join(', ')}`;
