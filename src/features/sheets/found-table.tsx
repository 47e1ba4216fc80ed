'use client';

import { decimalText, multiply, parseRational, ratio } from '../../core/scaling/rational';
import type { Adopted } from '../../core/sheet/adopt-described';
import type { Parameter } from '../../core/sheet/parameter-section';
import styles from './sheets.module.css';
import { HeadRow } from '../../ui/head-row';
import { useLongList } from '../../ui/use-long-list';

const ROW_PX = 27;

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
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLDivElement>(found.length, ROW_PX);
  return (
    <div ref={scroller} className={isLong ? styles.scrollLong : styles.scroll}>
      <table className={styles.found} aria-label={label} aria-rowcount={found.length + 1}>
        <HeadRow names={['number', 'name', 'type', 'range', 'unit', 'one count', 'default', 'written', 'and']} />
        <tbody>
          {before > 0 && <tr style={{ height: before }} />}
          {shown.map((i) => {
            const adopted = found[i];
            if (!adopted) return null;
            const { parameter } = adopted;
            const { number, name, type, order, choices, bitNames, unit, scale, write, min, max } = parameter;
            const limits = [inUnit(parameter, min), inUnit(parameter, max)];
            return (
              <tr key={i} data-index={i} ref={measure}>
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
          {after > 0 && <tr style={{ height: after }} />}
        </tbody>
      </table>
    </div>
  );
}
