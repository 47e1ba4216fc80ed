'use client';

import TextField from '@mui/material/TextField';
import { parseRational, decimalText } from '../../core/scaling/rational';
import { toRaw, type Scaled } from '../../core/scaling/scale';
import { chainOf, meaningOf } from '../../core/sheet/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { referenceCautions } from '../../core/sheet/reference-cautions';
import type { LiveValue } from '../../bench/state/live-values';
import { ageText } from '../../ui/format';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel, Warning } from '../../ui/panel';
import styles from './words.module.css';

interface ReferencePanelProps {
  readonly index: SheetIndex;
  readonly text: string;
  readonly last: LiveValue | null;
  readonly nowUs: number;
  readonly canSend: boolean;
  /** The last word seen in the place with a role. */
  readonly known: (role: ParameterRole) => number | undefined;
  readonly targetName: string;
  readonly onText: (text: string) => void;
  readonly onSend: (word: number) => void;
}

type Made = { readonly scaled: Scaled; readonly trouble: '' } | { readonly scaled: null; readonly trouble: string };

/** The speed that is wanted, and how it becomes the number on the wire. */
export function ReferencePanel({
  index,
  text,
  last,
  nowUs,
  canSend,
  known,
  targetName,
  onText,
  onSend,
}: ReferencePanelProps) {
  const place = index.byRole.get('speed-reference');
  const chain = place && chainOf(index.sheet, place);
  if (!place || !chain) return null;
  const made = text.trim() === '' ? null : make(index, text);
  const aside = last
    ? `last seen ${meaningOf(index, place, last.word)}, ${ageText(nowUs - last.atUs)}`
    : 'the drive’s present reference is not known yet';
  const ready = canSend && made?.scaled ? made.scaled : null;
  const send = (): void => {
    if (ready) onSend(ready.wire);
  };
  return (
    <Panel title={`▸ Speed reference, ${place.number}`} aside={aside}>
      <div className={styles.entry}>
        <div>
          <TextField
            label={`wanted, ${chain.unit}`}
            value={text}
            error={made?.scaled === null}
            helperText={made?.trouble ?? ''}
            onChange={(event) => onText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && !event.ctrlKey) send();
            }}
            slotProps={{ htmlInput: { inputMode: 'decimal', spellCheck: false } }}
          />
          <ActButton
            variant="contained"
            off={whyOff(
              [made === null, 'nothing is wanted yet'],
              [made?.scaled === null, 'what is typed does not fit'],
              [!canSend, LINE_CLOSED],
            )}
            onClick={send}
          >
            Send {made?.scaled ? made.scaled.hex : ''} to {targetName}
          </ActButton>
        </div>
        {made?.scaled && (
          <ol className={styles.working} aria-label="Working" data-testid="working">
            {made.scaled.working.map((line) => (
              <li key={line}>{line}</li>
            ))}
            <li>
              the drive gets {decimalText(made.scaled.sent, 4)} {chain.unit}
            </li>
          </ol>
        )}
      </div>
      {made?.scaled &&
        referenceCautions(index, made.scaled.sent, known).map((caution) => <Warning key={caution}>{caution}</Warning>)}
    </Panel>
  );
}

/** The number on the wire, or the sentence that says why there is none: no number, or outside the sheet's limits. */
function make(index: SheetIndex, text: string): Made {
  const place = index.byRole.get('speed-reference');
  const chain = place && chainOf(index.sheet, place);
  const value = parseRational(text);
  if (!place || !chain) return { scaled: null, trouble: 'the sheet has no speed reference' };
  if (!value.ok) return { scaled: null, trouble: value.error.text };
  const scaled = toRaw(chain, value.value);
  if (!scaled.ok) return { scaled: null, trouble: scaled.error.text };
  const { raw, faults } = scaled.value;
  if (faults[0]) return { scaled: null, trouble: faults[0].text };
  if (raw < BigInt(place.min) || raw > BigInt(place.max))
    return { scaled: null, trouble: `${raw} is outside the sheet’s limits, ${place.min} to ${place.max}` };
  return { scaled: scaled.value, trouble: '' };
}
