'use client';

import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { addressOf, ruleText } from '../../core/registers/address';
import { TABLE_NAMES, type ModbusTable } from '../../core/registers/tables';
import { notationsOf, readAddress, readingText } from '../../core/registers/notation';
import { hexNumber } from '../../core/bytes/hex';
import { TABLE_READS } from '../../core/places/register-link';
import { parameterAt } from '../../core/sheet/index-sheet';
import { registerCell } from '../../core/sheet/place';
import { learnedFrom } from '../../link/learned';
import { HeadRow } from '../../ui/head-row';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './registers.module.css';

const TABLES = (Object.entries(TABLE_NAMES) as [ModbusTable, string][]).map(([id, name]) => [id, `${name}s`] as const);

/** What was asked last: of which drive and address, and the tickets of it by address. */
interface Asked {
  readonly about: string;
  readonly tickets: ReadonlyMap<number, number>;
}
const NONE: Asked['tickets'] = new Map();

/** One register in every notation, with its neighbours: an address that is off by one shows itself by what stands beside it. */
export function OneAddress() {
  const bench = useBench();
  const { key, index, protocol, places, framing, drive, isOpen, name } = useCurrent();
  const [text, setText] = useTyped('one address', '', 'address', '');
  const [typedTable, setTable] = useTyped('one address', '', 'table', 'holding-register');
  const table = TABLES.find(([id]) => id === typedTable)?.[0] ?? 'holding-register';
  const [asked, setAsked] = useState<Asked>({ about: '', tickets: new Map() });
  const results = useBenchState((state) => state.results);
  const number = index?.byNumber.get(text.trim());
  const ruled = index?.sheet.addressRule ? addressOf(index.sheet.addressRule, text.trim()) : null;
  const readings = readAddress(text, table);
  const [reading] = readings;
  const place = number?.place.kind === 'register' ? number.place : null;
  const where =
    place ??
    (ruled ? { table: index?.sheet.addressRule?.table ?? table, address: ruled.address } : null) ??
    (reading ? { table: reading.table ?? table, address: reading.address } : null);
  const around = where
    ? [where.address - 1, where.address, where.address + 1].filter((at) => at >= 0 && at <= 0xffff)
    : [];
  const about = where ? `${key} ${where.table} ${where.address}` : '';
  // What another drive or another address said is not shown beside this one.
  const tickets = asked.about === about ? asked.tickets : NONE;
  const ask = (): void => {
    if (!drive || !where) return;
    // One by one: a missing neighbour must not refuse the others.
    const sent = around.flatMap((address) => {
      const built = framing.encode(
        { unit: drive.station, fc: TABLE_READS[where.table].fc, address, quantity: 1 },
        'request',
      );
      return built.ok ? [[address, bench.send(drive, built.value, 'Registers, one address')] as const] : [];
    });
    setAsked({ about, tickets: new Map(sent) });
  };
  const saidOf = (address: number): string => {
    const ticket = tickets.get(address);
    const result = ticket === undefined ? undefined : results.get(ticket);
    if (!where || ticket === undefined) return '';
    if (!result) return 'asked …';
    if (result.said?.exception !== undefined) return `refused, exception ${result.said.exception}`;
    const word = new Map(learnedFrom(result, places)).get(registerCell(address, where.table));
    return word === undefined ? `no value: ${result.outcome}` : `${word} = ${hexNumber(word)}`;
  };
  return (
    <Panel title="One address" aside="as a manual, a controller or a colleague writes it">
      <div className={styles.row}>
        <TypedField
          label="Address or number"
          width={200}
          value={text}
          onChange={setText}
          error={text.trim() !== '' && !where ? 'no address: such as 40108, 0x6B, 107 or a number of the sheet' : ''}
          note={
            number
              ? `${number.number} ${number.name}: ${number.working}`
              : ruled
                ? `by the sheet’s rule, ${index?.sheet.addressRule ? ruleText(index.sheet.addressRule) : ''}: ${ruled.working}`
                : readings.map((one) => readingText(one)).join('; or ')
          }
        />
        <ChoiceField
          label="Table, where it is not said"
          width={210}
          value={table}
          onChange={setTable}
          options={TABLES}
        />
        <ActButton
          variant="outlined"
          off={whyOff(
            [protocol?.family !== 'modbus' || !drive, 'choose a station on a line that speaks Modbus'],
            [!isOpen, LINE_CLOSED],
            [where === null, 'give an address'],
          )}
          onClick={ask}
        >
          Read it and its neighbours from {name}
        </ActButton>
      </div>
      {where && (
        <div className={styles.scroll}>
          <table className={styles.found} aria-label="The address and its neighbours">
            <HeadRow
              names={[
                '',
                'counted from 0',
                'hex',
                'counted from 1',
                'reference',
                'of six digits',
                'the sheet',
                'the drive',
              ]}
            />
            <tbody>
              {around.map((address) => {
                const said = notationsOf(where.table, address);
                const parameter = parameterAt(index, address, where.table);
                return (
                  <tr key={address} aria-current={address === where.address ? 'true' : undefined}>
                    <th scope="row">
                      {address === where.address ? '▸ this one' : address < where.address ? 'one lower' : 'one higher'}
                    </th>
                    <td className={styles.mono}>{said.decimal}</td>
                    <td className={styles.mono}>{said.hex}</td>
                    <td className={styles.mono}>{said.fromOne}</td>
                    <td className={styles.mono}>{said.reference5 ?? '–'}</td>
                    <td className={styles.mono}>{said.reference6 ?? '–'}</td>
                    <td>{parameter ? `${parameter.number} ${parameter.name}` : ''}</td>
                    <td className={styles.mono}>{saidOf(address)}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
    </Panel>
  );
}
