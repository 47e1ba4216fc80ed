'use client';

import TextField from '@mui/material/TextField';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { parseRational } from '../../core/scaling/rational';
import { readBack } from '../../core/scaling/read-back';
import { parseWord } from '../../core/words/parse-word';
import { OtherBases } from '../../ui/other-readings';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

const VERDICTS = {
  same: '= the same',
  'within-resolution': '≈ within the drive’s resolution',
  differs: '≠ differs',
} as const;

/** What was written against what came back, and which step explains the difference. */
export function ReadBackPart({ scale: { chain }, scaled }: PartProps) {
  const { key } = useCurrent();
  const { text, put: set } = useForm('read-back', key);
  const written = parseWord(text('written', scaled.hex), chain.word.bits);
  const read = text('read').trim() === '' ? null : parseWord(text('read'), chain.word.bits);
  const resolution = text('resolution').trim() === '' ? null : parseRational(text('resolution'));
  const found =
    written.value !== null && read?.value !== null && read?.value !== undefined
      ? readBack(chain, BigInt(written.value), BigInt(read.value), resolution?.ok ? resolution.value : null)
      : null;
  return (
    <div className={styles.pairs}>
      <TextField
        label="written, any base"
        value={text('written', scaled.hex)}
        error={written.value === null}
        helperText={<OtherBases parsed={written} onTake={(next) => set('written', next)} />}
        onChange={(event) => set('written', event.target.value)}
      />
      <TextField
        label="read back, any base"
        value={text('read')}
        error={read?.value === null}
        helperText={read && <OtherBases parsed={read} onTake={(next) => set('read', next)} />}
        onChange={(event) => set('read', event.target.value)}
      />
      <TextField
        label={`the drive’s resolution, ${chain.unit}`}
        value={text('resolution')}
        error={resolution?.ok === false}
        helperText={resolution?.ok === false ? resolution.error.text : 'if it is known'}
        onChange={(event) => set('resolution', event.target.value)}
      />
      <p data-testid="read-back" role="status">
        {found && (
          <>
            <strong>{VERDICTS[found.verdict]}</strong>
            {found.text === '' ? '' : `: ${found.text}.`}
          </>
        )}
      </p>
    </div>
  );
}
