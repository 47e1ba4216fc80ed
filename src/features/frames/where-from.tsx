'use client';

import { bytesToHex } from '../../core/bytes/hex';
import type { ModbusMessage } from '../../core/modbus/message';
import { tableOfFunction, writtenBy } from '../../core/modbus/touched';
import { ruleText } from '../../core/registers/address';
import { TABLE_NAMES } from '../../core/registers/tables';
import { notationsOf } from '../../core/registers/notation';
import { decimalText, readableFraction } from '../../core/scaling/rational';
import { ROUNDING_TEXT } from '../../core/scaling/rounding';
import { meaningOf, scalingOf } from '../../core/drive/describe';
import { parameterAt, registerWay, type SheetIndex } from '../../core/sheet/index-sheet';
import { patternOfWords, wordsOfPattern } from '../../core/values/pattern';
import { Facts, Panel } from '../../ui/panel';

/** A pattern as its bytes: two, or four where it does not fit two. */
const pair = (word: number): string =>
  bytesToHex(
    wordsOfPattern(word, word > 0xffff ? 2 : 1, undefined).flatMap((one) => [one >> 8, one & 0xff]),
    ' ',
  ).toUpperCase();

/** How the register's address came about, in every notation, with its neighbours: off by one reads a neighbour and looks plausible. */
export function WhereAddress({
  message,
  index,
}: {
  readonly message: ModbusMessage | null;
  readonly index: SheetIndex | null;
}) {
  const address = message?.address ?? message?.readAddress;
  const table = message ? tableOfFunction(message.fc) : undefined;
  if (address === undefined || !table)
    return <Panel title="Where the address comes from">These bytes name no register.</Panel>;
  const lists = index?.parameters.some((one) => registerWay(one)?.table === table) === true;
  const named = lists ? index : null;
  const parameter = parameterAt(named, address, table);
  // What has an address of its own came about by no rule.
  const rule =
    parameter && index?.sheet.parameters?.find(({ number }) => number === parameter.number)?.at
      ? undefined
      : named?.sheet.addressRule;
  const notations = notationsOf(table, address);
  const neighbour = (at: number): string => {
    const found = parameterAt(named, at, table);
    return found ? `${found.number} ${found.name}` : named ? `${at} not in the sheet` : `${TABLE_NAMES[table]} ${at}`;
  };
  const about = !index
    ? 'no sheet for this station'
    : named
      ? `${rule ? 'address rule of' : ''} sheet ${index.sheet.name}`.trim()
      : `the sheet says nothing of ${TABLE_NAMES[table]}s`;
  return (
    <Panel title={`Where ${pair(address)} comes from`} aside={about}>
      <Facts
        rows={[
          ['place', parameter ? `${parameter.number} ${parameter.name}` : `${TABLE_NAMES[table]} ${address}`],
          [
            'rule',
            parameter && rule
              ? `${ruleText(rule)}: ${parameter.working}`
              : `counted from 0: ${notations.decimal} = ${notations.hex}`,
          ],
          [
            'counted from 1',
            [notations.fromOne, notations.reference5 && `reference ${notations.reference5}`, notations.reference6]
              .filter(Boolean)
              .join(' · '),
          ],
          ['neighbours', `${neighbour(address - 1)}, ${neighbour(address + 1)}`],
        ]}
      />
    </Panel>
  );
}

/** How the value on the wire came about; for a read, what the reply's registers will mean. */
export function WhereValue({
  message,
  index,
}: {
  readonly message: ModbusMessage | null;
  readonly index: SheetIndex | null;
}) {
  const address = message?.address;
  const writes = message && writtenBy(message);
  const parameter = writes ? parameterAt(index, writes.first, writes.table) : undefined;
  const own = writes?.words.slice(0, parameter?.cells.length ?? 1);
  const word = own && address !== undefined ? (patternOfWords(own, parameter?.order) ?? undefined) : undefined;
  if (word === undefined || !parameter || !index) return <WhatComes message={message} index={index} />;
  const scaled = scalingOf(index.sheet, parameter, word);
  if (!scaled)
    return (
      <Panel title={`Where ${pair(word)} comes from`} aside={`${parameter.number} ${parameter.name}`}>
        <Facts
          rows={[
            ['number', `${word}`],
            ['meaning', meaningOf(index, parameter, word)],
            ['note', parameter.note ?? 'none in the sheet'],
          ]}
        />
      </Panel>
    );
  const { chain, raw, value } = scaled;
  const step = chain.steps[0];
  return (
    <Panel title={`Where ${pair(word)} comes from`} aside="scaling chain">
      <Facts
        rows={[
          [
            'scale',
            step?.kind === 'full-scale'
              ? `${step.value} ${chain.unit} ↔ ${step.raw}`
              : step?.kind === 'resolution'
                ? `one count is ${step.value} ${chain.unit}`
                : '',
          ],
          ['on the wire', `${raw} = 0x${pair(word).replaceAll(' ', '')}, ${ROUNDING_TEXT[chain.rounding]}`],
          ['stands for', `${decimalText(value, 6)} ${chain.unit}`],
          ['exactly', `${readableFraction(value)} ${chain.unit}`],
        ]}
      />
    </Panel>
  );
}

const MOST_LISTED = 6;

function WhatComes({ message, index }: { readonly message: ModbusMessage | null; readonly index: SheetIndex | null }) {
  const { address, quantity = 0 } = message ?? {};
  if (address === undefined || !index) return <Panel title="What the reply will say">Choose a register first.</Panel>;
  // A wide value takes several registers, and is one row.
  const rows = new Map(
    Array.from({ length: Math.min(quantity, MOST_LISTED) }, (_, i): readonly [string, string] => {
      const parameter = parameterAt(index, address + i, message ? tableOfFunction(message.fc) : undefined);
      return [
        parameter?.number ?? `${address + i}`,
        parameter
          ? [parameter.name, parameter.unit].filter(Boolean).join(', ')
          : 'not in the sheet: the drive may refuse the whole read',
      ];
    }),
  );
  return (
    <Panel
      title="What the reply will say"
      aside={quantity > MOST_LISTED ? `the first ${MOST_LISTED} of ${quantity}` : undefined}
    >
      <Facts rows={[...rows]} />
    </Panel>
  );
}
