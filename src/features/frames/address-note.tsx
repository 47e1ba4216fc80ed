'use client';

import type { ModbusTable } from '../../core/registers/tables';
import { readAddress, readingText } from '../../core/registers/notation';
import { OtherReadings } from '../../ui/other-readings';

/** What a typed address was taken for, and what else its text may mean: off by one reads a neighbour and looks plausible. */
export function AddressNote({
  text,
  table,
  onTake,
}: {
  readonly text: string;
  readonly table: ModbusTable;
  readonly onTake: (text: string) => void;
}) {
  const [taken, ...rest] = readAddress(text, table);
  if (!taken) return null;
  return (
    <OtherReadings
      said={`${taken.address}: ${readingText(taken)}`}
      others={rest
        .filter(({ address }) => address !== taken.address)
        .map((other) => ({
          label: `${other.address}, ${readingText(other)}`,
          text: `0x${other.address.toString(16)}`,
        }))}
      onTake={onTake}
    />
  );
}
