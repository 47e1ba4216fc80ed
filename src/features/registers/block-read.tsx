'use client';

import { useEffect, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { bytesToHex } from '../../core/bytes/hex';
import { TABLE_READS } from '../../core/places/register-link';
import { readAddress, readingText } from '../../core/registers/notation';
import { registerCell } from '../../core/sheet/place';
import { learnedFrom } from '../../link/learned';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import registers from './registers.module.css';

/** Modbus Application Protocol V1.1b3, sections 6.3 and 6.4: one request reads so many registers. */
const MOST_REGISTERS = 125;
const TABLES = [
  ['holding-register', 'holding registers'],
  ['input-register', 'input registers'],
] as const;

/** What was asked for, as it was then: another block that is chosen meanwhile changes nothing of it. */
interface Asked {
  readonly ticket: number;
  /** The drive's key. */
  readonly of: string;
  readonly table: 'holding-register' | 'input-register';
  readonly address: number;
  /** Bytes of the block. */
  readonly size: number;
}

/** Reads a block where it stands in registers, such as those of a gateway, and gives its bytes as they came. */
export function BlockRead({
  size,
  off,
  onBytes,
}: {
  readonly size: number;
  /** Why its size is not known; empty where it is. */
  readonly off: string;
  readonly onBytes: (hex: string) => void;
}) {
  const bench = useBench();
  const { protocol, places, framing, drive, isOpen, name, key } = useCurrent();
  const [text, setText] = useTyped('block', '', 'at', '');
  const [typedTable, setTable] = useTyped('block', '', 'table', 'holding-register');
  const table = TABLES.find(([id]) => id === typedTable)?.[0] ?? 'holding-register';
  const readings = readAddress(text, table);
  const [reading] = readings;
  const where =
    reading && reading.table !== 'coil' && reading.table !== 'discrete-input'
      ? { table: reading.table ?? table, address: reading.address }
      : null;
  const [asked, setAsked] = useState<Asked | null>(null);
  const result = useBenchState((state) => (asked?.of === key ? state.results.get(asked.ticket) : undefined));
  const quantity = Math.ceil(size / 2);
  const words = result && asked ? wordsOf(new Map(learnedFrom(result, places)), asked) : null;
  const hex = words && asked && bytesToHex(words.subarray(0, asked.size), ' ').toUpperCase();
  const ticket = asked?.ticket;
  useEffect(() => {
    if (hex !== null) onBytes(hex);
    // One press, one time: what is typed over it afterwards stays.
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `onBytes` is another one with each drawing
  }, [hex, ticket]);
  if (protocol?.family !== 'modbus') return null;
  const read = (): void => {
    if (!drive || !where || !framing) return;
    const built = framing.encode(
      { unit: drive.station, fc: TABLE_READS[where.table].fc, address: where.address, quantity },
      'request',
    );
    if (built.ok) setAsked({ ...where, ticket: bench.send(drive, built.value, 'Registers, block'), of: key, size });
  };
  return (
    <div className={registers.row}>
      <TypedField
        label="It stands at register"
        width={200}
        value={text}
        error={text.trim() !== '' && !where ? 'no register: such as 40108, 0x6B or 107' : ''}
        note={where ? readings.map((one) => readingText(one)).join('; or ') : 'of the drive, or of the gateway'}
        onChange={setText}
      />
      <ChoiceField label="Of the" width={170} value={table} onChange={setTable} options={TABLES} />
      <ActButton
        variant="outlined"
        off={whyOff(
          [off !== '', off],
          [!drive, 'choose a station'],
          [!isOpen, LINE_CLOSED],
          [where === null, 'give the register at which it stands'],
          [quantity > MOST_REGISTERS, `one request reads ${MOST_REGISTERS} registers, and this block has ${quantity}`],
          [where !== null && where.address + quantity > 65_536, 'it would end behind the last register'],
        )}
        onClick={read}
      >
        Read it from {name}
      </ActButton>
      {asked && asked.of === key && (
        <span className={registers.soft} role="status">
          {!result
            ? 'asked …'
            : result.said?.exception !== undefined
              ? `refused, exception ${result.said.exception}`
              : words
                ? 'read: its bytes stand below'
                : `no value: ${result.outcome}`}
        </span>
      )}
    </div>
  );
}

/** The registers of a block as bytes, the high byte of each first, as they cross the line; null where one is missing. */
function wordsOf(told: ReadonlyMap<string, number>, { table, address, size }: Asked): Uint8Array | null {
  const quantity = Math.ceil(size / 2);
  const bytes = new Uint8Array(2 * quantity);
  for (let i = 0; i < quantity; i++) {
    const word = told.get(registerCell(address + i, table));
    if (word === undefined) return null;
    bytes[2 * i] = word >> 8;
    bytes[2 * i + 1] = word & 255;
  }
  return bytes;
}
