'use client';

import { asNumber } from '../../core/as-number';
import TextField from '@mui/material/TextField';
import { parseQuantity } from '../../core/scaling/quantity';
import { decimalText, type Rational } from '../../core/scaling/rational';
import { hexOfWords } from '../../core/values/pattern';
import { wordsOfValue } from '../../core/sets/typed-value';
import { cellsValue } from '../../core/drive/cells-text';
import { isFloatType } from '../../core/values/type';
import { toRaw, type Scaled } from '../../core/scaling/scale';
import { chainOf, type KnownNumber } from '../../core/drive/describe';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { referenceCautions } from '../../core/drive/reference-cautions';
import type { LiveText } from '../../bench/state/known-state';
import { ageText } from '../../ui/format';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { Panel, Warning } from '../../ui/panel';
import styles from './words.module.css';

interface ReferencePanelProps {
  readonly index: SheetIndex;
  readonly text: string;
  /** What the drive holds, in words; null where that is not known. */
  readonly last: LiveText | null;
  readonly nowUs: number;
  readonly canSend: boolean;
  /** The last word seen in the place with a role. */
  readonly known: (role: ParameterRole) => number | undefined;
  /** What is known of entries that set the scale of the reference. */
  readonly knownNumber: KnownNumber;
  readonly targetName: string;
  readonly onText: (text: string) => void;
  readonly onSend: (words: readonly number[]) => void;
}

/** A reference as it goes out, and what the drive gets by it. */
type Sent = Pick<Scaled, 'hex' | 'sent' | 'working'> & { readonly words: readonly number[] };
type Made = { readonly scaled: Sent; readonly trouble: '' } | { readonly scaled: null; readonly trouble: string };

/** The speed that is wanted, and how it becomes the number on the wire. */
export function ReferencePanel({
  index,
  text,
  last,
  nowUs,
  canSend,
  known,
  knownNumber,
  targetName,
  onText,
  onSend,
}: ReferencePanelProps) {
  const place = index.byRole.get('speed-reference');
  if (!place) return null;
  const unit = chainOf(index.sheet, place, knownNumber)?.unit ?? place.unit ?? '';
  const made = text.trim() === '' ? null : make(index, text, knownNumber);
  const aside = last
    ? `last seen ${last.text}, ${ageText(nowUs - last.atUs)}`
    : 'the drive’s present reference is not known yet';
  const ready = canSend && made?.scaled ? made.scaled : null;
  const send = (): void => {
    if (ready) onSend(ready.words);
  };
  return (
    <Panel title={`▸ Speed reference, ${place.number}`} aside={aside}>
      <div className={styles.entry}>
        <div>
          <TextField
            label={`wanted${unit === '' ? '' : `, ${unit}`}`}
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
              the drive gets {decimalText(made.scaled.sent, 4)} {unit}
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
function make(index: SheetIndex, text: string, known: KnownNumber): Made {
  const place = index.byRole.get('speed-reference');
  const chain = place ? chainOf(index.sheet, place, known) : null;
  const value = parseQuantity(text, chain?.unit ?? place?.unit ?? '');
  if (!place) return { scaled: null, trouble: 'the sheet has no speed reference' };
  if (!value.ok) return { scaled: null, trouble: value.error.text };
  if (!chain && place.scale?.kind === 'by')
    return { scaled: null, trouble: `what one count is, is set by ${place.scale.parameter}: press Read once` };
  if (!chain) return makePlain(index, place, value.value);
  const scaled = toRaw(chain, value.value);
  if (!scaled.ok) return { scaled: null, trouble: scaled.error.text };
  const { raw, faults } = scaled.value;
  if (faults[0]) return { scaled: null, trouble: faults[0].text };
  if (raw < BigInt(Math.ceil(place.min)) || raw > BigInt(Math.floor(place.max)))
    return { scaled: null, trouble: `${raw} is outside the sheet’s limits, ${place.min} to ${place.max}` };
  const words = wordsOfValue(index, place, value.value, known);
  return words.ok
    ? { scaled: { ...scaled.value, words: words.value }, trouble: '' }
    : { scaled: null, trouble: words.error };
}

/** A reference that the drive keeps in its unit: a float, or a number without a scale. */
function makePlain(index: SheetIndex, place: PlacedParameter, value: Rational): Made {
  const number = asNumber(value);
  if (!(number >= place.min && number <= place.max))
    return { scaled: null, trouble: `${place.min} to ${place.max} by the sheet` };
  if (!isFloatType(place.type) && value.den !== 1n)
    return { scaled: null, trouble: 'a whole number: the sheet gives no scale' };
  const words = wordsOfValue(index, place, value, () => undefined);
  if (!words.ok) return { scaled: null, trouble: words.error };
  const sent = cellsValue(index, place, words.value);
  if (!sent) return { scaled: null, trouble: `${place.name} is no number` };
  const hex = hexOfWords(words.value, place.order);
  return {
    scaled: { words: words.value, hex, sent, working: [`${decimalText(value, 6)} as ${place.type} = ${hex}`] },
    trouble: '',
  };
}
