'use client';

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { decimalText, exactText } from '../../core/scaling/rational';
import { fitScale, rawBeside, type Observed } from '../../core/scaling/fit';
import { parseWord } from '../../core/words/parse-word';
import { ActButton } from '../../ui/act-button';
import { OtherBases } from '../../ui/other-readings';
import { Warning } from '../../ui/panel';
import { useTakeChain } from './chain-drafting';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

const LEAST = 3;
const MOST = 12;
/** Raw numbers may be as wide as this. */
const WIDTH = 32;

/** Pairs of what the display showed and what was on the wire; from them the scale that explains them, and how sure that is. */
export function FitPart({ scale }: Partial<PartProps>) {
  const { key } = useCurrent();
  const take = useTakeChain();
  const { text, put } = useForm('scale pairs', key);
  const count = Math.min(MOST, parseInt(text('count'), 10) || LEAST);
  const rows = Array.from({ length: count }, (_, i) => {
    const display = text(`${i} display`);
    const rawText = text(`${i} raw`);
    const raw = rawText.trim() === '' ? null : parseWord(rawText, WIDTH);
    return { i, display, rawText, raw };
  });
  const observed = rows.flatMap(({ display, raw }): Observed[] =>
    display.trim() !== '' && raw?.value !== null && raw?.value !== undefined
      ? [{ display, raw: rawBeside(display, BigInt(raw.value)) }]
      : [],
  );
  const found = observed.length === 0 ? null : fitScale(observed);
  return (
    <div className={styles.fit}>
      <div>
        {rows.map(({ i, display, rawText, raw }) => (
          <div key={i} className={styles.pair}>
            <TextField
              label={`display ${i + 1}`}
              value={display}
              onChange={(event) => put(`${i} display`, event.target.value)}
            />
            <TextField
              label={`raw ${i + 1}, any base`}
              value={rawText}
              error={raw?.value === null}
              helperText={raw && <OtherBases parsed={raw} onTake={(next) => put(`${i} raw`, next)} />}
              onChange={(event) => put(`${i} raw`, event.target.value)}
            />
          </div>
        ))}
        <ActButton
          variant="outlined"
          color="inherit"
          off={count >= MOST ? `${MOST} at most` : ''}
          onClick={() => put('count', `${count + 1}`)}
        >
          One pair more
        </ActButton>
      </div>
      <div data-testid="fit" role="status">
        {!found && (
          <p>
            Type what the display shows, with all its places, beside the raw number. Two pairs say something, three
            prove it.
          </p>
        )}
        {found && !found.ok && <Warning>{found.error.text}.</Warning>}
        {found?.ok && (
          <>
            <p>{found.value.sure}</p>
            <ul className={styles.scales}>
              {found.value.scales.map(({ text, value, raw }) => (
                <li key={text}>
                  {text}
                  {scale && found.value.offset.num === 0n && (
                    <Button
                      size="small"
                      variant="text"
                      color="inherit"
                      aria-label={`Take into the chain: ${text}`}
                      onClick={() =>
                        take({
                          ...scale.chain,
                          steps: [{ kind: 'full-scale', value: exactText(value), raw: exactText(raw) }],
                        })
                      }
                    >
                      Take into the chain
                    </Button>
                  )}
                </li>
              ))}
            </ul>
            <ul className={styles.scales} aria-label="How each pair fits">
              {found.value.residuals.map(({ display, seen, by }, i) => (
                <li key={i}>
                  {display}: {decimalText(by, 2, false)} counts by{' '}
                  {found.value.scales[0]?.text ?? 'the middle of what is possible'}, {String(seen)} seen
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </div>
  );
}
