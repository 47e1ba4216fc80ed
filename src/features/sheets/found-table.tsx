'use client';

import { decimalText, multiply, parseRational, ratio } from '../../core/scaling/rational';
import type { Adopted } from '../../core/sheet/adopt-described';
import type { Parameter } from '../../core/sheet/parameter-section';
import styles from './sheets.module.css';
import { HeadRow } from '../../ui/head-row';

/** More rows than this are counted and not shown: the list of entries has them all once they are taken. */
const MOST_SHOWN = 200;

/** A limit in the unit, as the manual prints it. */
function inUnit({ scale }: Parameter, raw: number | undefined): string {
  if (raw === undefined) return '';
  const step = scale?.kind === 'resolution' ? parseRational(scale.value) : null;
  if (!step?.ok || !Number.isSafeInteger(raw)) return `${raw}`;
  return decimalText(multiply(ratio(BigInt(raw)), step.value), 6, false);
}

interface FoundTableProps {
  readonly found: readonly Adopted[];
  readonly label: string;
  readonly about: (adopted: Adopted) => string;
}

/** Entries as they would be taken, with what was made of each cell. */
export function FoundTable({ found, label, about }: FoundTableProps) {
  return (
    <div className={styles.scroll}>
      <table className={styles.found} aria-label={label}>
        <HeadRow names={['number', 'name', 'type', 'range', 'unit', 'one count', 'default', 'written', 'and']} />
        <tbody>
          {found.slice(0, MOST_SHOWN).map((adopted, i) => {
            const { parameter } = adopted;
            const { number, name, type, order, choices, bitNames, unit, scale, write, min, max } = parameter;
            const limits = [inUnit(parameter, min), inUnit(parameter, max)];
            return (
              <tr key={`${number} ${i}`}>
                <td className={styles.mono}>{number}</td>
                <td>{name}</td>
                <td>{[type, order].filter(Boolean).join(' ')}</td>
                <td>
                  {choices
                    ? choices.map(({ value, name: text }) => `${value} ${text}`).join(', ')
                    : bitNames
                      ? bitNames.map(({ bit, name: text }) => `bit ${bit} ${text}`).join(', ')
                      : limits.every((limit) => limit === '')
                        ? ''
                        : limits.map((limit) => limit || '?').join(' to ')}
                </td>
                <td>{unit ?? ''}</td>
                <td>{scale?.kind === 'resolution' ? scale.value : ''}</td>
                <td>{inUnit(parameter, parameter.default)}</td>
                <td>
                  {write === 'never'
                    ? 'never'
                    : write === 'standstill'
                      ? 'at standstill'
                      : write
                        ? 'any time'
                        : 'not said'}
                </td>
                <td className={styles.soft}>{about(adopted)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {found.length > MOST_SHOWN && <p className={styles.soft}>And {found.length - MOST_SHOWN} more.</p>}
    </div>
  );
}
