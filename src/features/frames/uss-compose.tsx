'use client';

import { useState } from 'react';
import { hexNumber } from '../../core/bytes/hex';
import type { SheetUssParameter } from '../../core/sheet/uss-section';
import { encodeUss } from '../../core/uss/encode';
import { numberOf, readTask, writeTask, type UssParameter, type UssRule } from '../../core/uss/parameter';
import { readUss } from '../../core/uss/telegram';
import { TASKS } from '../../core/uss/tables';
import { valueOf } from '../../core/uss/value';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ChoiceField, TypedField } from '../../ui/fields';
import { wholeIn } from '../../core/bytes/whole';
import { useTypedOver } from '../../ui/use-typed-over';
import styles from './frames.module.css';
import { PasteEntry } from './paste-entry';

interface UssComposeProps {
  readonly bytes: Uint8Array;
  readonly index: SheetIndex | null;
  readonly station: number;
  readonly onBytes: (bytes: Uint8Array) => void;
}

/** What to do; the task id comes from the sheet. */
const ACTS = [
  ['mirror', 'Mirror: the same back'],
  ['none', 'Process data only'],
  ['read', 'Read parameter'],
  ['working', 'Write, working memory'],
  ['kept', 'Write and store'],
] as const;
type Act = (typeof ACTS)[number][0];

/** A request by its fields: the sheet says word or double word, array or not, and so which task. */
export function UssCompose({ bytes, index, station, onBytes }: UssComposeProps) {
  const rule: (UssRule & { parameters: readonly SheetUssParameter[] }) | null = index?.sheet.uss ?? null;
  const { message } = readUss(bytes, rule?.pkwWords);
  const place =
    rule && message?.pnu !== undefined && message.ind !== undefined ? numberOf(rule, message.pnu, message.ind) : null;
  const task = message?.ak ?? 0;
  const act: Act = message?.mirror
    ? 'mirror'
    : task === 0
      ? 'none'
      : TASKS[task]?.stores
        ? 'kept'
        : task === 1 || task === 6
          ? 'read'
          : 'working';
  const number = place?.number ?? rule?.parameters[0]?.number ?? 0;
  const parameter = rule?.parameters.find((one) => one.number === number);
  const [trouble, setTrouble] = useState('');
  const [unset, setUnset] = useState('');
  const raw = message ? valueOf(message, 'request') : null;
  const [control = 0, reference = 0] = message?.pzd ?? [];
  const writing = (how: Act, which: number, element: number, value: number): string =>
    how === 'working' || how === 'kept' ? `${how} ${which} ${element} ${value}` : '';
  const isUnset = unset !== '' && unset === writing(act, number, place?.element ?? 0, raw ?? 0);
  /** A write of something else begins without a value: the number of another parameter means something else there. */
  const turnTo = (how: Act, which: number, element: number): void => {
    setUnset(writing(how, which, element, 0));
    build({ act: how, number: which, element, value: 0 });
  };

  const build = (next: {
    readonly act?: Act;
    readonly number?: number;
    readonly element?: number;
    readonly value?: number;
    readonly pzd?: readonly number[];
  }): void => {
    const wanted = next.act ?? act;
    const pzd = next.pzd ?? message?.pzd ?? [];
    const widths = { pkwWords: rule?.pkwWords ?? message?.pkwWords ?? 4 };
    const words = Array.from({ length: rule?.pzdWords ?? Math.max(pzd.length, 2) }, (_, i) => pzd[i] ?? 0);
    const made =
      wanted === 'mirror' || wanted === 'none'
        ? {
            ok: true as const,
            value: { draft: { address: station, mirror: wanted === 'mirror', ...widths, ak: 0, pnu: 0 }, because: '' },
          }
        : taskOf(wanted, next.number ?? number, next.element ?? place?.element ?? 0, next.value ?? raw ?? 0);
    if (!made.ok) return setTrouble(made.error);
    const built = encodeUss({ ...made.value.draft, pzd: words });
    if (!built.ok) return setTrouble(built.error[0]?.text ?? '');
    setTrouble('');
    onBytes(built.value);
  };

  const taskOf = (wanted: 'read' | 'working' | 'kept', which: number, element: number, value: number) => {
    if (!rule)
      return {
        ok: false as const,
        error: 'without a sheet for this drive the task must be typed into the telegram below',
      };
    const found = rule.parameters.find((one) => one.number === which);
    const known: UssParameter = { number: which, double: found?.double === true, elements: found?.elements ?? 1 };
    const limit = known.double ? 2 ** 32 : 65536;
    const bits = value < 0 ? value + limit : value;
    return wanted === 'read'
      ? readTask(rule, station, known, element)
      : writeTask(rule, station, known, bits, wanted, element);
  };
  const because =
    act === 'mirror' || act === 'none' ? '' : describe(taskOf(act, number, place?.element ?? 0, raw ?? 0));

  return (
    <>
      <div className={styles.compose}>
        <ChoiceField
          label="What to do"
          width={210}
          value={act}
          onChange={(next) => turnTo(next as Act, number, place?.element ?? 0)}
          options={ACTS}
        />
        {act !== 'mirror' && act !== 'none' && rule && (
          <ChoiceField
            label="Parameter"
            width={260}
            value={String(number)}
            onChange={(next) => turnTo(act, Number(next), 0)}
            options={rule.parameters.map(
              (one) => [String(one.number), `${String(one.number).padStart(4, '0')} ${one.name}`] as const,
            )}
          />
        )}
        {act !== 'mirror' && act !== 'none' && (parameter?.elements ?? 1) > 1 && (
          <ChoiceField
            label="Element"
            width={90}
            value={String(place?.element ?? 0)}
            onChange={(next) => turnTo(act, number, Number(next))}
            options={Array.from({ length: parameter?.elements ?? 1 }, (_, i) => [String(i), String(i)] as const)}
          />
        )}
        {(act === 'working' || act === 'kept') && (
          <WholeEntry
            label={`Value${parameter ? countText(parameter) : ''}`}
            double={parameter?.double === true}
            value={isUnset ? null : signedValue(raw ?? 0, parameter)}
            onValue={(value) => {
              setUnset('');
              build({ value });
            }}
          />
        )}
        <WordEntry label="Control word" word={control} onWord={(next) => build({ pzd: [next, reference] })} />
        <WordEntry label="Reference" word={reference} onWord={(next) => build({ pzd: [control, next] })} />
        <PasteEntry onBytes={onBytes} />
      </div>
      {(trouble || because) && <p className={trouble ? styles.bad : styles.soft}>{trouble || because}</p>}
    </>
  );
}

const describe = (made: ReturnType<typeof readTask>): string => (made.ok ? made.value.because : made.error);

function signedValue(raw: number, parameter: SheetUssParameter | undefined): number {
  const half = parameter?.double ? 2 ** 31 : 2 ** 15;
  return parameter && parameter.min < 0 && raw >= half ? raw - 2 * half : raw;
}

function WholeEntry({
  label,
  value,
  double,
  onValue,
}: {
  readonly label: string;
  /** Null where nobody has given one yet. */
  readonly value: number | null;
  /** 32 bits, not 16. */
  readonly double: boolean;
  readonly onValue: (value: number) => void;
}) {
  const half = double ? 2 ** 31 : 2 ** 15;
  const takes = (typed: string): number | null => {
    const whole = wholeIn(typed);
    return whole !== null && whole >= -half && whole < 2 * half ? whole : null;
  };
  const bits = (whole: number): string => String(whole < 0 ? whole + 2 * half : whole);
  const shown = value === null ? '' : String(value);
  const [text, setText, isInBytes] = useTypedOver(shown, (typed) => {
    const whole = takes(typed);
    return whole !== null && value !== null && bits(whole) === bits(value) ? shown : null;
  });
  return (
    <TypedField
      label={label}
      value={text}
      error={isInBytes && value !== null ? '' : `${-half} to ${2 * half - 1}, decimal or 0x…`}
      onChange={(next) => {
        setText(next);
        const whole = takes(next);
        if (whole !== null) onValue(whole);
      }}
    />
  );
}

const wordIn = (text: string): number | null => {
  const value = wholeIn(text);
  return value !== null && value >= -32768 && value <= 65535 ? value & 0xffff : null;
};

function WordEntry({
  label,
  word,
  onWord,
}: {
  readonly label: string;
  readonly word: number;
  readonly onWord: (word: number) => void;
}) {
  const [text, setText, isInBytes] = useTypedOver(hexNumber(word), (typed) => {
    const value = wordIn(typed);
    return value === null ? null : hexNumber(value);
  });
  return (
    <TypedField
      label={label}
      width={110}
      value={text}
      error={isInBytes ? '' : '-32768 to 65535'}
      onChange={(next) => {
        setText(next);
        const value = wordIn(next);
        if (value !== null) onWord(value);
      }}
    />
  );
}

/** What one count of a parameter is: `, 0.1 s`. */
function countText({ unit, scale }: SheetUssParameter): string {
  if (scale?.kind === 'chain') return ', counts';
  return unit ? `, ${scale ? `${scale.value} ` : ''}${unit}` : '';
}
