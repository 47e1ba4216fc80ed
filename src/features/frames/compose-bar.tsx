'use client';

import Autocomplete from '@mui/material/Autocomplete';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { ModbusMessage } from '../../core/modbus/message';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { ComposeFields } from './compose-fields';
import { isWrite } from './draft-frame';
import styles from './frames.module.css';
import { askFor, ASKS, HAS_REGISTER_FORM } from './message-fields';
import { PasteEntry } from './paste-entry';
import { ValueEntry } from './value-entry';

interface ComposeBarProps {
  readonly message: ModbusMessage | null;
  readonly index: SheetIndex | null;
  readonly onChange: (change: Partial<ModbusMessage>) => void;
  readonly onBytes: (bytes: Uint8Array) => void;
}

/** More registers than this are edited in the strip. */
const MOST_ENTRIES = 4;

/** The request by its fields. It shows what the bytes say, so strip and fields are one thing seen from two sides. */
export function ComposeBar({ message, index, onChange, onBytes }: ComposeBarProps) {
  const fc = message?.fc ?? 3;
  const address = message?.address ?? 0;
  const values = message?.values ?? [];
  const known = askFor(fc);
  const hasRegisterForm = HAS_REGISTER_FORM.has(fc);
  return (
    <div className={styles.compose}>
      <TextField
        select
        label="What to ask"
        value={known?.fc ?? ''}
        onChange={(event) => onChange({ fc: Number(event.target.value) })}
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
        <RegisterEntry index={index} address={address} onAddress={(next) => onChange({ address: next })} />
      )}
      {hasRegisterForm && fc !== 6 && (
        <QuantityEntry
          key={`${fc} ${message?.quantity ?? 0}`}
          quantity={message?.quantity ?? 1}
          max={isWrite(fc) ? 123 : 125}
          onQuantity={(quantity) => onChange({ quantity })}
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
              word={word}
              onWord={(next) => onChange({ values: values.map((value, k) => (k === i ? next : value)) })}
            />
          ))}
      <PasteEntry onBytes={onBytes} />
    </div>
  );
}

function RegisterEntry({
  index,
  address,
  onAddress,
}: {
  readonly index: SheetIndex | null;
  readonly address: number;
  readonly onAddress: (address: number) => void;
}) {
  const [trouble, setTrouble] = useState('');
  const typed = (text: string): void => {
    const number = /^\s*(0x[0-9a-f]{1,4}|\d{1,5})\s*$/i.exec(text)?.[1];
    const parameter = index?.byNumber.get(text.trim());
    const next = parameter?.address ?? (number === undefined ? NaN : Number(number));
    const good = Number.isInteger(next) && next >= 0 && next <= 0xffff;
    setTrouble(good ? '' : `“${text}” is no parameter of the sheet and no register from 0 to 65535`);
    if (good) onAddress(next);
  };
  return (
    <Autocomplete<PlacedParameter, false, true, true>
      freeSolo
      disableClearable
      options={index?.parameters ?? []}
      value={index?.byAddress.get(address) ?? String(address)}
      getOptionLabel={(option) => (typeof option === 'string' ? option : `${option.number} ${option.name}`)}
      onChange={(_, choice) => (typeof choice === 'string' ? typed(choice) : onAddress(choice.address))}
      sx={{ width: 230 }}
      renderInput={(params) => (
        <TextField {...params} label="Parameter or register" error={trouble !== ''} helperText={trouble} />
      )}
    />
  );
}

function QuantityEntry({
  quantity,
  max,
  onQuantity,
}: {
  readonly quantity: number;
  readonly max: number;
  readonly onQuantity: (quantity: number) => void;
}) {
  const [text, setText] = useState(String(quantity));
  const value = /^\s*\d{1,4}\s*$/.test(text) ? Number(text) : NaN;
  const good = value >= 1 && value <= max;
  return (
    <TextField
      label="Registers"
      value={text}
      error={!good}
      helperText={good ? '' : `1 to ${max}`}
      onChange={(event) => {
        setText(event.target.value);
        const next = Number(event.target.value);
        if (Number.isInteger(next) && next >= 1 && next <= max) onQuantity(next);
      }}
      sx={{ width: 92 }}
    />
  );
}
