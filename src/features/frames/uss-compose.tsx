'use client';

import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { wholeIn } from '../../core/bytes/whole';
import { readWord } from '../../core/words/read';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { cellOf } from '../../core/sheet/place';
import { ussParameterOf } from '../../core/places/uss-link';
import { channelWords, placeOf, type UssRule } from '../../core/uss/parameter';
import { netWords, PZD_MAX, readUss } from '../../core/uss/telegram';
import { ChoiceField, TypedField } from '../../ui/fields';
import { SwitchRows } from '../../ui/switch-rows';
import { useSayUnread } from '../../ui/unread';
import { useTypedOver } from '../../ui/use-typed-over';
import { NumberEntry } from './number-entry';
import { CARRIES_NUMBER, PURPOSES, ussBytes, ussFormOf, type UssForm, type UssPurpose } from './uss-form';
import { ValueEntry } from './value-entry';
import styles from './frames.module.css';

interface UssComposeProps {
  readonly bytes: Uint8Array;
  readonly index: SheetIndex | null;
  readonly station: number;
  readonly onBytes: (bytes: Uint8Array) => void;
}

/** Words of the channel that a telegram can have beside two of process data. */
const PKW_MOST = 124;
const NO_PARAMETER: ReadonlySet<UssPurpose> = new Set(['mirror', 'none']);

/** A request by its fields: the sheet says word or double word, array or not, and so which task; without one the user does. */
export function UssCompose({ bytes, index, station, onBytes }: UssComposeProps) {
  const uss = index?.sheet.uss;
  const rule: UssRule | null = uss ?? null;
  const { message } = readUss(bytes, channelWords(netWords(bytes.length), rule));
  const form = ussFormOf(message, rule);
  const [trouble, setTrouble] = useState('');
  const [unset, setUnset] = useState('');
  const ussAt = (number: number): PlacedParameter | null => index?.byCell.get(cellOf({ kind: 'uss', number })) ?? null;
  const kindOf = (number: number) => {
    const parameter = ussAt(number);
    return parameter && ussParameterOf(parameter);
  };
  const known = kindOf(form.number);
  const identity = (of: UssForm): string =>
    CARRIES_NUMBER.has(of.purpose) ? `${of.purpose} ${of.number} ${of.element} ${of.double} ${of.raw}` : '';
  const isUnset = unset !== '' && unset === identity(form);
  const build = (change: Partial<UssForm>): UssForm | null => {
    const next = { ...form, ...change };
    const words = uss ? Math.max(uss.pzdWords, 0) : next.pzd.length;
    const made = ussBytes({ ...next, pzd: Array.from({ length: words }, (_, i) => next.pzd[i] ?? 0) }, station, rule);
    setTrouble(made.ok ? '' : made.error);
    if (!made.ok) return null;
    onBytes(made.value.bytes);
    return next;
  };
  /** A write of something else begins without a value: the number of another parameter means something else there. */
  const turnTo = (change: Partial<UssForm>): void => {
    const number = change.number ?? form.number;
    const parameter = kindOf(number);
    const kind = parameter ? { double: parameter.double, array: parameter.elements > 1 } : {};
    const next = build({ raw: 0, text: '', ...kind, ...change });
    if (next) setUnset(identity(next));
  };
  const processOut = (word: number): PlacedParameter | null =>
    index?.byCell.get(cellOf({ kind: 'process', direction: 'out', word })) ?? null;
  const setPzd = (i: number, word: number): void =>
    void build({ pzd: form.pzd.map((old, k) => (k === i ? word : old)) });
  const made = ussBytes(form, station, rule);
  const because = made.ok ? made.value.because : made.error;
  const control = index?.words?.control;
  const hasParameter = !NO_PARAMETER.has(form.purpose);

  return (
    <>
      <div className={styles.compose}>
        <ChoiceField
          label="What to do"
          width={220}
          value={form.purpose}
          onChange={(next) => turnTo({ purpose: next as UssPurpose })}
          options={PURPOSES}
        />
        {hasParameter && (
          <ParameterEntry
            rule={rule}
            parameters={index?.parameters.filter((parameter) => ussParameterOf(parameter)?.element === 0) ?? []}
            number={form.number}
            onNumber={(number) => turnTo({ number, element: 0 })}
          />
        )}
        {hasParameter && !known && (
          <ChoiceField
            label="It is"
            width={190}
            value={`${form.array ? 'array ' : ''}${form.double ? 'double' : 'word'}`}
            onChange={(kind) => turnTo({ array: kind.startsWith('array'), double: kind.endsWith('double') })}
            options={[
              ['word', 'a word'],
              ['double', 'a double word'],
              ['array word', 'an array of words'],
              ['array double', 'an array of double words'],
            ]}
          />
        )}
        {hasParameter &&
          ((known?.elements ?? 1) > 1 || !known || form.purpose === 'describe' || form.purpose === 'text') && (
            <NumberEntry
              label={rule ? 'Element' : 'Index word (IND)'}
              width={130}
              least={0}
              most={rule ? 255 : 0xffff}
              value={form.element}
              onChange={(element) => turnTo({ element })}
            />
          )}
        {CARRIES_NUMBER.has(form.purpose) && (
          <ValueEntry
            index={index}
            parameter={form.purpose === 'redescribe' ? null : ussAt(form.number)}
            bits={form.double ? 32 : 16}
            label="Value"
            word={isUnset ? null : form.raw}
            onWord={(raw) => {
              setUnset('');
              build({ raw });
            }}
          />
        )}
        {form.purpose === 'text' && (
          <TextEntry text={form.text} onText={(text) => build({ text, pkwWords: rule?.pkwWords ?? 4 }) !== null} />
        )}
        {form.pzd.map((word, i) => (
          <ValueEntry
            key={i}
            index={index}
            parameter={processOut(i)}
            label={processOut(i)?.name ?? NAMES[i] ?? `word ${i + 1}`}
            word={word}
            onWord={(next) => setPzd(i, next)}
          />
        ))}
        {!rule && (
          <>
            <NumberEntry
              label="Channel, words"
              width={130}
              least={0}
              most={PKW_MOST}
              value={form.pkwWords}
              onChange={(pkwWords) => build({ pkwWords })}
            />
            <NumberEntry
              label="Process data, words"
              width={150}
              least={0}
              most={PZD_MAX}
              value={form.pzd.length}
              onChange={(words) => build({ pzd: Array.from({ length: words }, (_, i) => form.pzd[i] ?? 0) })}
            />
          </>
        )}
      </div>
      {(trouble || because) && <p className={trouble ? styles.bad : styles.soft}>{trouble || because}</p>}
      {control && form.pzd.length > 0 && !message?.mirror && (
        <details className={styles.soft}>
          <summary>
            Control word by bits:{' '}
            {readWord(control, form.pzd[0] ?? 0)
              .filter(({ spec, active }) => spec && active)
              .map(({ name }) => name)
              .join(', ') || 'none is set'}
          </summary>
          <SwitchRows
            label="Bits of the control word"
            spec={control}
            word={form.pzd[0] ?? 0}
            changed={NO_CHANGE}
            onWord={(word) => setPzd(0, word)}
          />
        </details>
      )}
    </>
  );
}

const NAMES = ['Control word', 'Reference'];
const NO_CHANGE: ReadonlySet<number> = new Set();

/** Any parameter's number, with the names that the sheet has. */
function ParameterEntry({
  rule,
  parameters,
  number,
  onNumber,
}: {
  readonly rule: UssRule | null;
  readonly parameters: readonly PlacedParameter[];
  readonly number: number;
  readonly onNumber: (number: number) => void;
}) {
  const nameOf = (one: PlacedParameter): string => `${one.number} ${one.name}`;
  const withNumber = (wanted: number): PlacedParameter | undefined =>
    parameters.find((one) => ussParameterOf(one)?.number === wanted);
  const known = withNumber(number);
  const shown = known ? nameOf(known) : String(number);
  const numberIn = (text: string): number | null => {
    const value = text === shown ? number : wholeIn(text);
    if (value === null || value < 0) return null;
    return rule ? (placeOf(rule, value) ? value : null) : value <= 2047 ? value : null;
  };
  const label = 'Parameter';
  const [text, setText, isInBytes] = useTypedOver(shown, (typed) => {
    const value = numberIn(typed);
    const found = withNumber(value ?? -1);
    return value === null ? null : found ? nameOf(found) : String(value);
  });
  useSayUnread(label, !isInBytes);
  return (
    <Autocomplete<PlacedParameter, false, true, true>
      freeSolo
      disableClearable
      options={parameters}
      value={known ?? shown}
      inputValue={text}
      getOptionLabel={(option) => (typeof option === 'string' ? option : nameOf(option))}
      onChange={(_, choice) => {
        if (typeof choice === 'string') return;
        setText(nameOf(choice));
        const chosen = ussParameterOf(choice)?.number;
        if (chosen !== undefined) onNumber(chosen);
      }}
      onInputChange={(_, next, reason) => {
        if (reason !== 'input') return;
        setText(next);
        const value = numberIn(next);
        if (value !== null) onNumber(value);
      }}
      sx={{ width: 240 }}
      renderInput={(params) => (
        <TextField
          {...params}
          label={label}
          error={!isInBytes}
          helperText={isInBytes ? '' : rule ? 'no page of the sheet’s rule reaches it' : '0 to 2047 without a sheet'}
        />
      )}
    />
  );
}

/** The text of task 15: none reads, some changes it, in a channel as long as it needs. */
function TextEntry({ text, onText }: { readonly text: string; readonly onText: (text: string) => boolean }) {
  const [typed, setTyped, isInBytes] = useTypedOver(text, (own) => own);
  return (
    <TypedField
      label="Text; none reads it"
      width={260}
      value={typed}
      error={isInBytes ? '' : 'not in the bytes: one byte to a character, 244 at most'}
      onChange={(next) => {
        setTyped(next);
        onText(next);
      }}
    />
  );
}
