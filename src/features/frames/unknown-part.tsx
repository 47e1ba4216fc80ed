'use client';

import { newestOf } from '../../core/sheet/shelf';
import Button from '@mui/material/Button';
import { useEffect, useMemo, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { framesWorker } from '../../bench/workers/frames-worker';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { LONGEST_PASTE } from '../../core/bytes/pasted';
import { parseBytes } from '../../core/bytes/notation';
import { LONGEST_GUESS, type Guess } from '../../core/unknown/rank';
import { PasteArea } from '../../ui/paste-area';
import { Panel, StageHead } from '../../ui/panel';
import styles from './frames.module.css';

/** Bytes of unknown origin: what they may be, what speaks for it, and what against. */
export function UnknownPart() {
  const bench = useBench();
  const { line, key } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const [text, setText] = useTyped('unknown bytes', '', 'text', '');
  const [told, setTold] = useState<{ readonly of: string; readonly guesses: readonly Guess[] } | null>(null);
  const parsed = useMemo(() => (text.trim() === '' ? null : parseBytes(text)), [text]);

  useEffect(() => {
    if (!parsed?.ok) return undefined;
    const { bytes } = parsed.value;
    const ask = Math.floor(Math.random() * 2 ** 31);
    const end = framesWorker().listen((answer) => {
      if (answer.kind === 'ranked' && answer.ask === ask) setTold({ of: text, guesses: answer.guesses });
    });
    const dialects = newestOf(sheets).flatMap(({ sheet }) => (sheet.dialect ? [sheet.dialect] : []));
    framesWorker().ask({ kind: 'rank', ask, bytes, dialects });
    return end;
  }, [parsed, sheets, text]);

  const guesses = told?.of === text ? told.guesses : null;
  const help = !parsed
    ? 'hex, decimal, a C array, quoted text: any notation'
    : parsed.ok
      ? `${parsed.value.bytes.length} bytes, read as ${parsed.value.notation}`
      : parsed.error.text;
  const compose = (): void => {
    if (!parsed?.ok) return;
    const drafts = bench.drafts.getState();
    drafts.startFrame(key, parsed.value.bytes);
    drafts.editFrame(key, parsed.value.bytes);
    drafts.setFramesPart('compose');
  };
  return (
    <div className={styles.stack}>
      <StageHead title="Unknown bytes" aside="paste them; nothing is claimed that the evidence does not show" />
      <Panel title="Bytes">
        <PasteArea
          rows={4}
          longest={LONGEST_PASTE}
          label="Bytes of unknown origin"
          value={text}
          onChange={setText}
          error={parsed !== null && !parsed.ok}
          help={help}
        />
      </Panel>
      {parsed?.ok && parsed.value.bytes.length > LONGEST_GUESS && (
        <Panel title="Too long for one frame">
          More than {LONGEST_GUESS} bytes are a stream: save them as a file and open it under “Capture”.
        </Panel>
      )}
      {guesses && (
        <Panel title="What they may be" aside={guesses.length === 0 ? '' : 'the best supported first'}>
          {guesses.length === 0 && <p>Nothing speaks for any protocol or check that is known here.</p>}
          <ol className={styles.guesses}>
            {guesses.map((guess) => (
              <li key={guess.what + guess.evidence.join()}>
                <strong>{guess.what}</strong>
                <meter min={0} max={100} value={guess.score} aria-label={`support ${guess.score} of 100`} />
                <span className={styles.soft}>{guess.score} of 100</span>
                <ul>
                  {guess.evidence.map((one) => (
                    <li key={one} data-kind="for">
                      {one}
                    </li>
                  ))}
                  {guess.against.map((one) => (
                    <li key={one} data-kind="against">
                      {one}
                    </li>
                  ))}
                </ul>
                {guess.protocol && guess.protocol === line?.protocol && (
                  <Button size="small" variant="outlined" color="inherit" onClick={compose}>
                    Read in Compose
                  </Button>
                )}
              </li>
            ))}
          </ol>
        </Panel>
      )}
    </div>
  );
}
