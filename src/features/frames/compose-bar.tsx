'use client';

import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { ModbusMessage } from '../../core/modbus/message';
import { readAddress, type ModbusTable } from '../../core/registers/notation';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { TypedField } from '../../ui/fields';
import { useSayUnread } from '../../ui/unread';
import { useTypedOver } from '../../ui/use-typed-over';
import { ComposeFields } from './compose-fields';
import { isWrite } from './draft-frame';
import styles from './frames.module.css';
import { askFor, ASKS, HAS_REGISTER_FORM } from './message-fields';
import { startWords, type StartWords } from './start-words';
import { AddressNote } from './address-note';
import { ValueEntry } from './value-entry';

interface ComposeBarProps {
  readonly message: ModbusMessage | null;
  readonly index: SheetIndex | null;
  /** The word that a register is known to hold now. */
  readonly known: (address: number) => number | undefined;
  readonly onChange: (change: Partial<ModbusMessage>) => void;
}

const NONE: ReadonlySet<number> = new Set();

/** More registers than this are edited in the strip. */
const MOST_ENTRIES = 4;

/** The request by its fields. It shows what the bytes say, so strip and fields are one thing seen from two sides. */
export function ComposeBar({ message, index, known: knownWord, onChange }: ComposeBarProps) {
  const [start, setStart] = useState<StartWords | null>(null);
  const fc = message?.fc ?? 3;
  const address = message?.address ?? 0;
  const values = message?.values ?? [];
  const known = askFor(fc);
  const hasRegisterForm = HAS_REGISTER_FORM.has(fc);
  // An undo, a paste or a byte typed over gives the bytes values of their own.
  const unset = start?.values.join() === values.join() ? start.unset : NONE;
  /** Another function, register or count: a write does not take the number of another register along. */
  const turnTo = (change: Partial<ModbusMessage>): void => {
    if (!message || !isWrite(change.fc ?? fc)) return onChange(change);
    const next = startWords(message, change, knownWord);
    // What was not given stays so.
    setStart({ ...next, unset: new Set([...next.unset, ...unset]) });
    onChange({ ...change, values: next.values });
  };
  const giveWord = (i: number, word: number): void => {
    const next = values.map((value, k) => (k === i ? word : value));
    setStart({ values: next, unset: new Set([...unset].filter((register) => register !== address + i)) });
    onChange({ values: next });
  };
  return (
    <div className={styles.compose}>
      <TextField
        select
        label="What to ask"
        value={known?.fc ?? ''}
        onChange={(event) => turnTo({ fc: Number(event.target.value) })}
        sx={{ minWidth: 190 }}
      >
        {ASKS.map((ask) => (
          <MenuItem key={ask.fc} value={ask.fc}>
            {ask.name}
          </MenuItem>
        ))}
      </TextField>
      {message && known && !hasRegisterForm && (
        <ComposeFields fields={known.fields} message={message} onChange={onChange} />
      )}
      {hasRegisterForm && (
        <RegisterEntry
          index={fc === 4 ? null : index}
          table={fc === 4 ? 'input-register' : 'holding-register'}
          address={address}
          onAddress={(next) => turnTo({ address: next })}
        />
      )}
      {hasRegisterForm && fc !== 6 && (
        <QuantityEntry
          key={fc}
          quantity={message?.quantity ?? 1}
          max={isWrite(fc) ? 123 : 125}
          onQuantity={(quantity) => turnTo({ quantity })}
        />
      )}
      {isWrite(fc) &&
        values
          .slice(0, MOST_ENTRIES)
          .map((word, i) => (
            <ValueEntry
              key={address + i}
              index={index}
              parameter={index?.byAddress.get(address + i) ?? null}
              label={
                values.length === 1 ? 'Value' : (index?.byAddress.get(address + i)?.name ?? `register ${address + i}`)
              }
              word={unset.has(address + i) ? null : word}
              onWord={(next) => giveWord(i, next)}
            />
          ))}
    </div>
  );
}

/** The register that a text names, by the sheet's number or by any notation; null where it names none. */
const registerIn = (text: string, index: SheetIndex | null, table: ModbusTable): number | null =>
  index?.byNumber.get(text.trim())?.address ?? readAddress(text, table)[0]?.address ?? null;

function RegisterEntry({
  index,
  table,
  address,
  onAddress,
}: {
  readonly table: ModbusTable;
  readonly index: SheetIndex | null;
  readonly address: number;
  readonly onAddress: (address: number) => void;
}) {
  const label = 'Parameter or register';
  const nameOf = ({ number, name }: PlacedParameter): string => `${number} ${name}`;
  const nameAt = (at: number): string => {
    const parameter = index?.byAddress.get(at);
    return parameter ? nameOf(parameter) : String(at);
  };
  const shown = nameAt(address);
  const meaning = (typed: string): string | null => {
    const register = typed === shown ? address : registerIn(typed, index, table);
    return register === null ? null : nameAt(register);
  };
  const [text, setText, isInBytes] = useTypedOver(shown, meaning);
  useSayUnread(label, !isInBytes);
  const take = (next: string): void => {
    setText(next);
    const register = registerIn(next, index, table);
    if (register !== null) onAddress(register);
  };
  const isNotation = text !== shown && !index?.byNumber.has(text.trim());
  return (
    <Autocomplete<PlacedParameter, false, true, true>
      freeSolo
      disableClearable
      options={index?.parameters ?? []}
      value={index?.byAddress.get(address) ?? shown}
      inputValue={text}
      getOptionLabel={(option) => (typeof option === 'string' ? option : nameOf(option))}
      onChange={(_, choice) => {
        if (typeof choice === 'string') return;
        setText(nameOf(choice));
        onAddress(choice.address);
      }}
      onInputChange={(_, next, reason) => {
        if (reason !== 'input') return;
        take(next);
      }}
      sx={{ width: 230 }}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          error={!isInBytes}
          helperText={
            !isInBytes ? (
              'no parameter of the sheet and no register from 0 to 65535'
            ) : isNotation ? (
              <AddressNote text={text} table={table} onTake={take} />
            ) : (
              ''
            )
          }
        />
      )}
    />
  );
}

const COUNT = /^\s*\d{1,4}\s*$/;

function QuantityEntry({
  quantity,
  max,
  onQuantity,
}: {
  readonly quantity: number;
  readonly max: number;
  readonly onQuantity: (quantity: number) => void;
}) {
  const countIn = (typed: string): number | null =>
    COUNT.test(typed) && Number(typed) >= 1 && Number(typed) <= max ? Number(typed) : null;
  const [text, setText, isInBytes] = useTypedOver(String(quantity), (typed) => countIn(typed)?.toString() ?? null);
  return (
    <TypedField
      label="Registers"
      width={92}
      value={text}
      error={isInBytes ? '' : `1 to ${max}`}
      onChange={(next) => {
        setText(next);
        const count = countIn(next);
        if (count !== null) onQuantity(count);
      }}
    />
  );
}
