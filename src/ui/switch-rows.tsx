'use client';

import { signedText } from '../core/words/parse-word';
import { binaryText, readFields, readWord, withBit, withField, type ReadBit } from '../core/words/read';
import type { WordSpec } from '../core/words/spec';
import styles from './switch-rows.module.css';

interface SwitchRowsProps {
  readonly label: string;
  readonly spec: WordSpec;
  readonly word: number;
  /** Bits that differ from the word before (status) or from the word last sent (control). */
  readonly changed: ReadonlySet<number>;
  /** Bits that say nothing in the state that the word shows. */
  readonly leftOpen?: number;
  /** Given for a word that is composed; without it the rows only show. */
  readonly onWord?: (word: number) => void;
}

const notesOf = ({ spec, level, bit }: ReadBit, leftOpen: number): string => {
  if (!spec) return '';
  if ((leftOpen >>> bit) & 1) return 'says nothing in this state';
  if (spec.acts === 'rise') return 'acts on a rise only';
  if (spec.ignored) return 'not compared';
  return spec.active === 'low' ? `${level ? spec.one : spec.zero} (works at 0)` : level ? spec.one : spec.zero;
};

/** A word as the row of switches that it is. Bits without a meaning are left out unless they are set. */
export function SwitchRows({ label, spec, word, changed, leftOpen = 0, onWord }: SwitchRowsProps) {
  const inField = (bit: number): boolean =>
    spec.fields?.some(({ from, width }) => bit >= from && bit < from + width) === true;
  const rows = readWord(spec, word).filter(
    ({ bit, spec: known, level }) => known !== null || (level === 1 && !inField(bit)),
  );
  return (
    <ul className={styles.rows} aria-label={label}>
      {readFields(spec, word).map(({ spec: field, value, text }) => (
        <li key={field.name} className={styles.row}>
          <span className={styles.bit}>
            {field.from}–{field.from + field.width - 1}
          </span>
          {onWord ? (
            <select
              className={styles.field}
              aria-label={`${field.name}, bits ${field.from} to ${field.from + field.width - 1}`}
              value={value}
              onChange={(event) => onWord(withField(word, field, parseInt(event.target.value, 10)))}
            >
              {field.values.some((known) => known.value === value) ? null : (
                <option value={value}>
                  {value}: {text}
                </option>
              )}
              {field.values.map((known) => (
                <option key={known.value} value={known.value}>
                  {known.value}: {known.name}
                </option>
              ))}
            </select>
          ) : (
            <span className={styles.field}>
              {value}: {text}
            </span>
          )}
          <span className={styles.meaning}>{field.name}</span>
        </li>
      ))}
      {rows.map((bit) => {
        const mark = changed.has(bit.bit) ? (onWord ? styles.will : styles.changed) : '';
        return (
          <li key={bit.bit} className={styles.row} data-bit={bit.bit} data-level={bit.level}>
            <span className={styles.bit}>{bit.bit}</span>
            {onWord ? (
              <button
                type="button"
                role="switch"
                aria-checked={bit.level === 1}
                aria-label={`bit ${bit.bit}, ${bit.name}`}
                className={`${styles.lever} ${bit.level ? styles.on : ''}`}
                onClick={() => onWord(withBit(word, bit.bit, bit.level ? 0 : 1))}
              />
            ) : (
              <span className={`${styles.level} ${bit.level ? styles.on : ''}`}>{bit.level}</span>
            )}
            <span className={`${bit.active && !((leftOpen >>> bit.bit) & 1) ? styles.active : ''} ${mark}`}>
              {bit.name}
            </span>
            <span className={styles.meaning} title={notesOf(bit, leftOpen)}>
              {notesOf(bit, leftOpen)}
            </span>
          </li>
        );
      })}
    </ul>
  );
}

/** The same word in binary and decimal. Binary stands at the right end and decimal has room for any word, so that a bit that toggles moves neither. */
export function WordBases({ word, width }: { readonly word: number; readonly width: number }) {
  return (
    <span className={styles.bases}>
      <span>{binaryText(word, width)}</span>
      <span className={styles.decimal} style={{ minWidth: `${String(2 ** width - 1).length}ch` }}>
        {word}
      </span>
      {word >= 2 ** (width - 1) && <span title="as a signed number">{signedText(word, width)}</span>}
    </span>
  );
}
