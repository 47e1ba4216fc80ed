'use client';

import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { BASES, byteText, COPY_FORMS, type Base } from '../core/bytes/copy-forms';
import { leavesOf, type Field } from '../core/bytes/field';
import type { Fault } from '../core/fault';
import styles from './byte-strip.module.css';
import { SelectionPanel } from './selection-panel';

/** What an editable strip does with keys and pasted text; without it the strip is only looked at. */
export interface StripEditing {
  readonly setByte: (at: number, value: number) => void;
  readonly insertByte: (at: number) => void;
  readonly deleteByte: (at: number) => void;
  readonly setField: (field: Field, text: string) => void;
  readonly paste: (text: string) => void;
  readonly undo: () => void;
  readonly redo: () => void;
}

interface ByteStripProps {
  readonly label: string;
  /** Null where a byte cannot be known yet. */
  readonly bytes: readonly (number | null)[];
  readonly fields: readonly Field[];
  readonly faults?: readonly Fault[];
  readonly direction: 'sent' | 'received';
  readonly small?: boolean;
  /** Places that differ from what was expected. */
  readonly differs?: ReadonlySet<number>;
  readonly editing?: StripEditing;
  /** How bytes are shown until the user chooses: text for protocols of characters. */
  readonly firstBase?: Base;
}

const shown = (byte: number | null, base: Base): string => (byte === null ? '??' : byteText(byte, base));

/** From this length on cells are small and the meanings of fields wait for the cursor, so that the longest frame fits. */
const DENSE_FROM = 65;

/** Bytes from one end of a selection to the other, whichever was first. */
interface Selection {
  readonly anchor: number;
  readonly head: number;
}

/**
 * Bytes under brackets that say what they are, the same for every protocol. Editable strips take hex digits, arrows, Insert, Delete,
 * pasted text in any notation, undo and redo. Shift with arrows or a drag selects; a selection shows its numbers and can be copied.
 */
export function ByteStrip({
  label,
  bytes,
  fields,
  faults = [],
  direction,
  small = false,
  differs,
  editing,
  firstBase = 'hex',
}: ByteStripProps) {
  const cells = useRef<HTMLDivElement>(null);
  const [pending, setPending] = useState<{ readonly at: number; readonly high: string } | null>(null);
  const [cursor, setCursor] = useState(0);
  const [base, setBase] = useState<Base>(firstBase);
  const [selection, setSelection] = useState<Selection | null>(null);
  const isDense = bytes.length >= DENSE_FROM;
  const [from, until] = selection
    ? [Math.min(selection.anchor, selection.head), Math.max(selection.anchor, selection.head) + 1]
    : [0, 0];
  const selected = bytes.slice(from, until);
  const chosen = selected.includes(null) ? [] : (selected as number[]);

  const extend = (head: number): void => {
    const to = Math.max(0, Math.min(head, bytes.length - 1));
    setSelection((now) => ({ anchor: now?.anchor ?? cursor, head: to }));
    cells.current?.querySelector<HTMLElement>(`[data-at="${to}"]`)?.focus();
  };

  const focus = (at: number): void => {
    setSelection(null);
    const next = Math.max(0, Math.min(at, bytes.length - 1));
    setCursor(next);
    cells.current?.querySelector<HTMLElement>(`[data-at="${next}"]`)?.focus();
  };

  const typed = (at: number, digit: string): void => {
    if (!editing) return;
    if (pending?.at !== at) return setPending({ at, high: digit });
    editing.setByte(at, parseInt(pending.high + digit, 16));
    setPending(null);
    focus(at + 1);
  };

  const press = (event: KeyboardEvent): void => {
    const at = parseInt((event.target as HTMLElement).dataset.at ?? '', 10);
    if (Number.isNaN(at)) return;
    const act = actionOf(event, at, {
      bytes,
      editing,
      focus,
      extend,
      selectAll: () => setSelection({ anchor: 0, head: bytes.length - 1 }),
      typed,
      drop: () => {
        setPending(null);
        setSelection(null);
      },
    });
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  };

  const pasted = (event: ClipboardEvent): void => {
    if (!editing || (event.target as HTMLElement).dataset.at === undefined) return;
    event.preventDefault();
    editing.paste(event.clipboardData.getData('text'));
  };

  const copied = (event: ClipboardEvent): void => {
    if (chosen.length === 0) return;
    event.preventDefault();
    event.clipboardData.setData('text', COPY_FORMS[0]?.of(Uint8Array.from(chosen)) ?? '');
  };

  return (
    <>
      <BaseChoice base={base} onBase={setBase} />
      <div
        ref={cells}
        className={[
          styles.strip,
          direction === 'received' && styles.received,
          small && styles.small,
          isDense && styles.dense,
          base === 'binary' && styles.wide,
        ]
          .filter(Boolean)
          .join(' ')}
        role="group"
        aria-label={label}
        data-takes-keys
        onKeyDown={press}
        onPaste={pasted}
        onCopy={copied}
      >
        {leavesOf(fields).map((field) => (
          <div key={`${field.path} ${field.start}`} className={styles.field}>
            <div className={styles.bytes}>
              {bytes.slice(field.start, field.end).map((byte, i) => {
                const at = field.start + i;
                const faulty = faults.some((fault) => at >= fault.start && at < fault.end);
                const text = pending?.at === at ? `${pending.high}_` : shown(byte, base);
                const state = [
                  faulty && styles.faulty,
                  byte === null && styles.unknown,
                  differs?.has(at) && styles.differs,
                  at >= from && at < until && styles.selected,
                ]
                  .filter(Boolean)
                  .join(' ');
                return (
                  <button
                    key={at}
                    type="button"
                    data-at={at}
                    tabIndex={at === Math.min(cursor, bytes.length - 1) ? 0 : -1}
                    className={`${styles.byte} ${state}`}
                    aria-label={`byte ${at + 1}, ${field.label}: ${byte === null ? 'not known yet' : shown(byte, base)}${faulty ? ', fault' : ''}`}
                    aria-pressed={at >= from && at < until}
                    onFocus={() => setCursor(at)}
                    onPointerDown={(event) => {
                      if (event.shiftKey) extend(at);
                      else setSelection(null);
                    }}
                    onPointerEnter={(event) => {
                      if (event.buttons === 1 && at !== cursor) extend(at);
                    }}
                    onBlur={() => setPending(null)}
                  >
                    {text}
                  </button>
                );
              })}
            </div>
            <div className={styles.bracket} />
            <div className={styles.label}>{field.label}</div>
            {!isDense && (
              <FieldText field={field} setField={editing && field.codec !== 'bytes' ? editing.setField : null} />
            )}
          </div>
        ))}
      </div>
      {isDense && <DenseMeaning fields={fields} at={cursor} />}
      {chosen.length > 0 && <SelectionPanel bytes={Uint8Array.from(chosen)} />}
      {faults.length > 0 && (
        <ul className={styles.faults}>
          {faults.map((fault) => (
            <li key={`${fault.code} ${fault.start} ${fault.text}`} data-code={fault.code}>
              {fault.text} <span className={styles.place}>({placeText(fault)})</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** In a long frame the meaning of one field is shown: that under the cursor. */
function DenseMeaning({ fields, at }: { readonly fields: readonly Field[]; readonly at: number }) {
  const field = leavesOf(fields).find(({ start, end }) => at >= start && at < end);
  return (
    <p className={styles.meaning} aria-live="polite">
      {field ? (
        <>
          byte {at + 1}, {field.label}: <b>{field.text}</b>
        </>
      ) : (
        'Go to a byte to read what it says.'
      )}
    </p>
  );
}

function BaseChoice({ base, onBase }: { readonly base: Base; readonly onBase: (base: Base) => void }) {
  return (
    <div className={styles.bases} role="group" aria-label="Bytes shown as">
      {BASES.map((one) => (
        <button key={one} type="button" aria-pressed={one === base} onClick={() => onBase(one)}>
          {one}
        </button>
      ))}
    </div>
  );
}

function placeText({ start, end }: Fault): string {
  if (end - start <= 1) return end === start ? `after byte ${start}` : `byte ${start + 1}`;
  return `bytes ${start + 1} to ${end}`;
}

interface KeyContext {
  readonly bytes: readonly (number | null)[];
  readonly editing: StripEditing | undefined;
  readonly focus: (at: number) => void;
  readonly extend: (at: number) => void;
  readonly selectAll: () => void;
  readonly typed: (at: number, digit: string) => void;
  readonly drop: () => void;
}

/** What a key does on the byte at `at`, or null when the strip leaves it to the page. */
function actionOf(
  event: KeyboardEvent,
  at: number,
  { bytes, editing, focus, extend, selectAll, typed, drop }: KeyContext,
): (() => void) | null {
  const moves: Readonly<Record<string, number>> = {
    ArrowLeft: at - 1,
    ArrowRight: at + 1,
    Home: 0,
    End: bytes.length - 1,
  };
  const target = moves[event.key];
  if (target !== undefined) return () => (event.shiftKey ? extend(target) : focus(target));
  if (event.key === 'Escape') return drop;
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'a') return selectAll;
  if (!editing) return null;
  if (event.ctrlKey || event.metaKey) {
    const key = event.key.toLowerCase();
    if (key === 'z') return event.shiftKey ? editing.redo : editing.undo;
    return key === 'y' ? editing.redo : null;
  }
  if (/^[0-9a-f]$/i.test(event.key)) return () => typed(at, event.key.toUpperCase());
  const edits: Readonly<Record<string, () => void>> = {
    Insert: () => editing.insertByte(at),
    Delete: () => editing.deleteByte(at),
    Backspace: () => {
      editing.deleteByte(at);
      focus(at - 1);
    },
  };
  return edits[event.key] ?? null;
}

/** The meaning of a field; in an editable strip a press turns it into an entry for the value. */
function FieldText({ field, setField }: { readonly field: Field; readonly setField: StripEditing['setField'] | null }) {
  const [text, setText] = useState<string | null>(null);
  if (!setField) return <div className={styles.text}>{field.text}</div>;
  if (text === null)
    return (
      <button
        type="button"
        className={styles.text}
        title={`type another ${field.label}, decimal or 0x…`}
        onClick={() => setText(String(field.value))}
      >
        {field.text}
      </button>
    );
  const commit = (): void => {
    setField(field, text);
    setText(null);
  };
  return (
    <input
      className={styles.edit}
      aria-label={`value of ${field.label}`}
      autoFocus
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => setText(null)}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') commit();
        if (event.key === 'Escape') setText(null);
      }}
    />
  );
}
