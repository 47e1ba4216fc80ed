'use client';

import { useTyped } from '../../bench/hooks/use-typed';
import type { Dialect } from '../../core/dialect/dialect';
import { literalBytes, literalText } from '../../core/dialect/literal';
import { readEitherWay } from '../../core/dialect/read';
import { completedLine } from '../../core/dialect/write';
import { lineSentence } from '../../core/protocol/dialect-protocol';
import { PasteArea } from '../../ui/paste-area';
import { Panel } from '../../ui/panel';
import styles from './frames.module.css';

const MOST_LINES = 12;

/** Sample lines, each read at once: what each piece is, or the place where reading stops. */
export function DialectSamples({ dialect }: { readonly dialect: Dialect }) {
  const [text, setText] = useTyped('dialect samples', '', 'text', '');
  const lines = text
    .split('\n')
    .filter((line) => line.trim() !== '')
    .slice(0, MOST_LINES);
  return (
    <Panel
      title="Sample lines"
      aside="type lines from the manual or from a log; without a closing, check and closing are added"
    >
      <PasteArea rows={4} longest={4000} label="Sample lines, one a row" value={text} onChange={setText} />
      <ul className={styles.samples} aria-label="How the samples are read">
        {lines.map((line, i) => (
          <Sample key={`${i} ${line}`} dialect={dialect} bytes={completedLine(dialect, literalBytes(line))} />
        ))}
      </ul>
    </Panel>
  );
}

function Sample({ dialect, bytes }: { readonly dialect: Dialect; readonly bytes: Uint8Array }) {
  const { direction, message, faults, fields } = readEitherWay(dialect, bytes);
  const [first] = faults;
  return (
    <li>
      <span className={styles.pieces}>
        {fields.map((field) => (
          <span
            key={field.path}
            className={styles.piece}
            data-stops={first !== undefined && field.start <= first.start && field.end > first.start}
          >
            <code>{literalText(bytes.subarray(field.start, field.end))}</code>
            <small>{field.label}</small>
          </span>
        ))}
      </span>
      {first ? (
        <span className={styles.bad}>
          stops at character {first.start + 1}: {first.text}
        </span>
      ) : (
        <span className={styles.good}>
          {direction}: {message ? lineSentence(dialect, message, null) : ''}
        </span>
      )}
    </li>
  );
}
