'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { HEX_MARK, hexNumber } from '../../core/bytes/hex';
import { encodeNumber } from '../../core/bytes/number';
import { wholeIn } from '../../core/bytes/whole';
import { numberOfPattern } from '../../core/values/pattern';
import { parseQuantity } from '../../core/scaling/quantity';
import { decimalText, type Rational } from '../../core/scaling/rational';
import { patternOnWire, toRaw } from '../../core/scaling/scale';
import { chainOf, valueIn } from '../../core/drive/describe';
import { patternOfCells } from '../../core/drive/seen';
import { wordsOfValue } from '../../core/sets/typed-value';
import { bitsOfParameter, isNumberType } from '../../core/values/type';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { useSayUnread } from '../../ui/unread';

interface EntryProps {
  readonly label: string;
  /** What the bytes hold; null where nobody has given a value yet, so that nothing may be sent. */
  readonly word: number | null;
  readonly onWord: (word: number) => void;
  /** How wide it is where no sheet says how it is scaled. */
  readonly bits?: 16 | 32;
}

/** A register's value in the unit that people say; names where the sheet has names, raw decimal or 0x… where it has nothing. */
export function ValueEntry({
  index,
  parameter,
  ...entry
}: EntryProps & { readonly index: SheetIndex | null; readonly parameter: PlacedParameter | null }) {
  if (parameter?.choices) return <NameEntry {...entry} choices={parameter.choices} />;
  const inHex = parameter?.role === 'control-word' || parameter?.role === 'status-word';
  return (
    <NumberEntry
      {...entry}
      inHex={inHex}
      isFloat={parameter?.type === 'float32'}
      entry={index && parameter && isNumberType(parameter.type) ? { index, parameter } : null}
      unit={parameter?.unit ?? ''}
    />
  );
}

const NOT_GIVEN = 'what the drive holds here is not known: give a value';

function NameEntry({
  label,
  word,
  onWord,
  choices,
}: EntryProps & { readonly choices: NonNullable<PlacedParameter['choices']> }) {
  useSayUnread(label, word === null);
  const isNamed = word === null || choices.some(({ value }) => value === word);
  return (
    <TextField
      select
      label={label}
      value={word ?? ''}
      error={word === null}
      helperText={word === null ? NOT_GIVEN : ''}
      onChange={(event) => onWord(Number(event.target.value))}
      sx={{ minWidth: 150 }}
    >
      {!isNamed && <MenuItem value={word}>{word} · not in the sheet</MenuItem>}
      {choices.map(({ value, name }) => (
        <MenuItem key={value} value={value}>
          {value} · {name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function NumberEntry({
  label,
  word,
  onWord,
  entry,
  unit,
  bits = 16,
  inHex,
  isFloat,
}: EntryProps & {
  readonly entry: SheetEntry | null;
  /** Unit of a number that no chain scales; empty where it has none. */
  readonly unit: string;
  readonly inHex: boolean;
  /** The bytes hold a number of IEEE 754 single precision. */
  readonly isFloat: boolean;
}) {
  const chain = entry && chainOf(entry.index.sheet, entry.parameter);
  const [typed, setTyped] = useState<{ readonly text: string; readonly word: number | null } | null>(null);
  const made = (typedText: string): Made =>
    isFloat ? floatFrom(typedText, unit) : wordFrom(typedText, entry, chain?.unit ?? unit, bits);
  // What was typed stays as long as the word is still the one that it made; another edit of the bytes shows its own value.
  const text =
    typed?.word === word && typed !== null
      ? typed.text
      : word === null
        ? ''
        : inHex
          ? hexNumber(word)
          : isFloat
            ? String(Number(numberOfPattern('float32', word).toPrecision(7)))
            : textOf(word, entry);
  const result = text.trim() === '' ? { word: null, text: NOT_GIVEN } : made(text);
  useSayUnread(label, result.word === null);
  const change = (next: string): void => {
    const { word: given } = made(next);
    setTyped({ text: next, word: given ?? word });
    if (given !== null && given !== word) onWord(given);
  };
  return (
    <TextField
      label={`${label}${chain ? `, ${chain.unit}` : ''}`}
      value={text}
      onChange={(event) => change(event.target.value)}
      error={result.word === null}
      helperText={result.text}
      slotProps={{
        htmlInput: { inputMode: 'decimal', spellCheck: false },
        formHelperText: { sx: { mx: 0, fontSize: 13 } },
      }}
      sx={{ width: 230 }}
    />
  );
}

/** What a sheet says of the value. */
interface SheetEntry {
  readonly index: SheetIndex;
  readonly parameter: PlacedParameter;
}

function textOf(word: number, entry: SheetEntry | null): string {
  const value = entry && valueIn(entry.index.sheet, entry.parameter, word);
  return value ? decimalText(value, 3, false).replace('−', '-') : String(word);
}

/** A number with a mark of its base is the word itself, whatever the unit. */
const IN_HEX = new RegExp(String.raw`^\s*(?:${HEX_MARK}|0b|2#)|^\s*[0-9a-f]+h\s*$`, 'i');

interface Made {
  readonly word: number | null;
  readonly text: string;
}

function wordFrom(text: string, entry: SheetEntry | null, unit: string, bits: 16 | 32): Made {
  const marked = IN_HEX.test(text) ? wholeIn(text) : null;
  if (marked !== null)
    return marked >= 2 ** bits || marked < 0
      ? { word: null, text: `${text.trim()} does not fit ${bits} bits` }
      : { word: marked, text: 'as it goes on the wire' };
  const value = parseQuantity(text, unit);
  if (!value.ok) return { word: null, text: value.error.text };
  // Counts of a size that is not known here are typed as they are.
  if (entry && entry.parameter.scale?.kind !== 'by') return byEntry(entry, value.value);
  const scaled = toRaw(
    { unit: '', steps: [], rounding: 'nearestHalfUp', word: { bits, signed: value.value.num < 0n } },
    value.value,
  );
  if (!scaled.ok) return { word: null, text: scaled.error.text };
  const fault = scaled.value.faults[0];
  return fault
    ? { word: null, text: fault.text }
    : { word: patternOnWire(scaled.value), text: scaled.value.working.join('; ') };
}

/** A value as its entry holds it: by its scale and its type. */
function byEntry({ index, parameter }: SheetEntry, value: Rational): Made {
  const words = wordsOfValue(index, parameter, value, () => undefined);
  if (!words.ok) return { word: null, text: words.error };
  const word = patternOfCells(parameter, words.value);
  if (word === null) return { word: null, text: `${parameter.name} cannot be written as one number` };
  const chain = chainOf(index.sheet, parameter);
  const scaled = chain && toRaw(chain, value);
  const working = scaled?.ok ? scaled.value.working : [];
  const held = hexNumber(word, bitsOfParameter(parameter.type) / 4);
  return {
    word,
    text: [...working, ...(scaled?.ok && scaled.value.hex === held ? [] : [`held as ${held}`])].join('; '),
  };
}

/** A decimal as the nearest number of single precision. */
function floatFrom(text: string, unit: string): Made {
  const marked = IN_HEX.test(text) ? wholeIn(text) : null;
  if (marked !== null) return wordFrom(text, null, unit, 32);
  const value = parseQuantity(text, unit);
  if (!value.ok) return { word: null, text: value.error.text };
  const built = encodeNumber('float32', 'ABCD', decimalText(value.value, 30, false).replace('−', '-'));
  if (!built.ok) return { word: null, text: built.error.text };
  const pattern = built.value.reduce((sum, byte) => sum * 256 + byte, 0);
  return { word: pattern, text: `held as ${String(numberOfPattern('float32', pattern))}` };
}
