'use client';

import TextField from '@mui/material/TextField';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { hexNumber } from '../../core/bytes/hex';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { statusText } from '../../core/drive/status';
import { parseWord } from '../../core/words/parse-word';
import { compareWords, readWord } from '../../core/words/read';
import { OtherBases } from '../../ui/other-readings';
import { Panel } from '../../ui/panel';
import styles from './words.module.css';

const SIDES = ['first', 'second'] as const;

/** Any two status words, typed or pasted in any base, against each other. Bits that the sheet ignores are left out. */
export function ComparePanel({ index }: { readonly index: SheetIndex }) {
  const { key } = useCurrent();
  const form = useForm('compared words', key);
  const spec = index.words?.status;
  if (!spec) return null;
  const read = SIDES.map((side) => {
    const text = form.text(side);
    return { side, text, parsed: text.trim() === '' ? null : parseWord(text, spec.width) };
  });
  const [a, b] = read.map(({ parsed }) => parsed?.value ?? null);
  const changes = a === null || b === null || a === undefined || b === undefined ? null : compareWords(spec, a, b);
  const digits = spec.width / 4;
  return (
    <Panel title="Compare two words" aside="any base">
      <div className={styles.ready}>
        {read.map(({ side, text, parsed }) => (
          <TextField
            key={side}
            label={`${side} status word`}
            value={text}
            error={parsed?.value === null}
            helperText={
              parsed && (
                <>
                  <OtherBases parsed={parsed} onTake={(next) => form.put(side, next)} />
                  {parsed.value !== null && ` · ${hexNumber(parsed.value, digits)}: ${statusText(index, parsed.value)}`}
                </>
              )
            }
            onChange={(event) => form.put(side, event.target.value)}
            sx={{ flex: '1 1 200px' }}
          />
        ))}
      </div>
      {changes !== null && (
        <p data-testid="compared">
          {changes.length === 0
            ? 'No bit that counts differs.'
            : changes.map(({ bit, name, to }) => `bit ${bit} ${name} ${to ? '0 → 1' : '1 → 0'}`).join(' · ')}
        </p>
      )}
      {a !== null && a !== undefined && (
        <table className={styles.bits} aria-label="Bits of both words">
          <thead>
            <tr>
              <th scope="col">bit</th>
              <th scope="col">name</th>
              <th scope="col">first</th>
              <th scope="col">second</th>
            </tr>
          </thead>
          <tbody>
            {readWord(spec, a).map(({ bit, name, level, text, spec: known }, i) => {
              const other = b === null || b === undefined ? null : readWord(spec, b)[i];
              if (!known && level === 0 && (other?.level ?? 0) === 0) return null;
              const differs = other !== null && other?.level !== level;
              return (
                <tr key={bit} data-differs={differs}>
                  <td>{bit}</td>
                  <td>
                    {differs ? '≠ ' : ''}
                    {name}
                  </td>
                  <td>
                    {level} {text}
                  </td>
                  <td>{other ? `${other.level} ${other.text}` : ''}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </Panel>
  );
}
