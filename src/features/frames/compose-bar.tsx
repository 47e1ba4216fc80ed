'use client';

import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { ModbusMessage } from '../../core/modbus/message';
import type { ModbusTable } from '../../core/registers/tables';
import { readAddress } from '../../core/registers/notation';
import { ownCell, parameterAt, registerWay, type PlacedParameter, type SheetIndex } from '../../core/sheet/index-sheet';
import { registerCell } from '../../core/sheet/place';
import { patternOfWords, wordsOfPattern } from '../../core/values/pattern';
import { tableOfFunction } from '../../core/modbus/touched';
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
  const giveWords = (at: number, words: readonly number[]): void => {
    const next = values.map((value, i) => words[i - at] ?? value);
    const given = (register: number): boolean => words[register - address - at] !== undefined;
    setStart({ values: next, unset: new Set([...unset].filter((register) => !given(register))) });
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
          index={index}
          table={tableOfFunction(fc) ?? 'holding-register'}
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
        valuesIn(index, address, values)
          .slice(0, MOST_ENTRIES)
          .map(({ at, words, parameter }) => (
            <ValueEntry
              key={address + at}
              index={index}
              parameter={parameter}
              bits={words.length > 1 ? 32 : 16}
              label={values.length === words.length ? 'Value' : (parameter?.name ?? `register ${address + at}`)}
              word={words.some((_, i) => unset.has(address + at + i)) ? null : patternOfWords(words, parameter?.order)}
              onWord={(pattern) => giveWords(at, wordsOfPattern(pattern, words.length, parameter?.order))}
            />
          ))}
    </div>
  );
}

/** The words of a write as values: those of one wide parameter together. */
function valuesIn(
  index: SheetIndex | null,
  first: number,
  values: readonly number[],
): readonly { readonly at: number; readonly words: readonly number[]; readonly parameter: PlacedParameter | null }[] {
  const found: { at: number; words: readonly number[]; parameter: PlacedParameter | null }[] = [];
  for (let at = 0; at < values.length;) {
    const parameter = parameterAt(index, first + at) ?? null;
    const count = parameter?.cells.length ?? 1;
    // A part of a wide value, or one of more than 32 bits, is edited word by word.
    const isWhole =
      count <= 2 && at + count <= values.length && parameter?.cells[0] === ownCell(index, registerCell(first + at));
    const size = isWhole ? count : 1;
    found.push({ at, words: values.slice(at, at + size), parameter: isWhole ? parameter : null });
    at += size;
  }
  return found;
}

/** The register that a text names, by the sheet's number or by any notation; null where it names none. */
const registerIn = (text: string, index: SheetIndex | null, table: ModbusTable): number | null =>
  registerOf(index?.byNumber.get(text.trim()), table) ?? readAddress(text, table)[0]?.address ?? null;

/** The address of a parameter in a table; undefined where it is reached another way. */
const registerOf = (parameter: PlacedParameter | undefined, table: ModbusTable): number | undefined => {
  const way = parameter && registerWay(parameter);
  return way?.table === table ? way.address : undefined;
};

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
    const parameter = parameterAt(index, at, table);
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
      options={(index?.parameters ?? []).filter((parameter) => registerOf(parameter, table) !== undefined)}
      value={parameterAt(index, address, table) ?? shown}
      inputValue={text}
      getOptionLabel={(option) => (typeof option === 'string' ? option : nameOf(option))}
      onChange={(_, choice) => {
        if (typeof choice === 'string') return;
        setText(nameOf(choice));
        const register = registerOf(choice, table);
        if (register !== undefined) onAddress(register);
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
