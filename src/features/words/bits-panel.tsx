'use client';

import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { useOwnSheet } from '../../bench/hooks/use-own-sheet';
import type { DriveWords, SheetIndex } from '../../core/sheet/index-sheet';
import { changedBits, lostRoles, withBits } from '../../core/words/adopt-bits';
import { bitTableText, readBitTable } from '../../core/words/bit-table';
import type { WordSpec } from '../../core/words/spec';
import { ActButton, whyOff } from '../../ui/act-button';
import { ChoiceField } from '../../ui/fields';
import { PasteArea } from '../../ui/paste-area';
import { Panel, Warning } from '../../ui/panel';
import { BitsGrid } from './bits-grid';
import styles from './words.module.css';

const WORDS = ['control', 'status'] as const;

/** More faults than this tell nobody anything. */
const MOST_FAULTS = 10;

/** Of a standard profile's words a sheet holds only the bits that differ; others change with the mode. */
function wordsToKeep(
  { sheet }: SheetIndex,
  words: DriveWords,
  which: (typeof WORDS)[number],
  edited: WordSpec<string>,
): Record<(typeof WORDS)[number], WordSpec<string>> {
  if (!sheet.profile || sheet.profile.kind === 'own') return { ...words, [which]: edited };
  const none = { width: words[which].width, bits: [] };
  const own = sheet.words ?? { control: none, status: none };
  const changed = changedBits<string>(words[which], edited);
  const kept = own[which].bits.filter(({ bit }) => !changed.bits.some((other) => other.bit === bit));
  return { ...own, [which]: { ...changed, bits: [...kept, ...changed.bits] } };
}

/** The bits of a word as a table to paste over, such as one copied from a manual's page; kept as a sheet of the user's own. */
export function BitsPanel({ index }: { readonly index: SheetIndex }) {
  const { key } = useCurrent();
  const { said, keep } = useOwnSheet();
  const form = useForm('bit table', key);
  const which = form.text('of') === 'status' ? 'status' : 'control';
  const { words } = index;
  if (!words) return null;
  const spec = words[which];
  const text = form.text(which, bitTableText(spec.bits, spec.fields));
  const table = readBitTable(text, spec.width);
  return (
    <Panel
      title="Bits from the manual’s page"
      aside="paste a table: bit, name, meaning of 1, meaning of 0"
      tools={
        <ChoiceField
          label="Word"
          width={150}
          value={which}
          onChange={(word) => form.put('of', word)}
          options={WORDS.map((word) => [word, `${word} word`] as const)}
        />
      }
    >
      <BitsGrid text={text} onText={(next) => form.put(which, next)} />
      <PasteArea
        rows={3}
        longest={20_000}
        label={`table of the ${which} word`}
        value={text}
        onChange={(next) => form.put(which, next)}
      />
      {table.faults.slice(0, MOST_FAULTS).map(({ start, text: why }) => (
        <Warning key={start}>
          Line {text.slice(0, start).split('\n').length}: {why}.
        </Warning>
      ))}
      {table.faults.length > MOST_FAULTS && <p>And {table.faults.length - MOST_FAULTS} more like these.</p>}
      {lostRoles(spec, table).map(({ bit, name, role }) => (
        <Warning key={bit}>
          Bit {bit} {name} is not in the table: by it the bench knows “{role}”, and would not any more.
        </Warning>
      ))}
      <p data-testid="bits-read">
        Understood: {table.bits.length} bits
        {table.bits.some(({ acts }) => acts === 'rise') &&
          `, ${table.bits
            .filter(({ acts }) => acts === 'rise')
            .map(({ name }) => name)
            .join(', ')} on a rise only`}
        {table.bits.some(({ active }) => active === 'low') &&
          `, ${table.bits
            .filter(({ active }) => active === 'low')
            .map(({ name }) => name)
            .join(', ')} active at 0`}
        {table.fields.length > 0 &&
          `, fields ${table.fields.map(({ name, values }) => `${name} (${values.length} values)`).join(', ')}`}
        .
      </p>
      <div className={styles.ready}>
        <ActButton
          variant="outlined"
          off={whyOff(
            [table.faults.length > 0, 'see the faults above'],
            [table.bits.length + table.fields.length === 0, 'no bit has a meaning yet'],
          )}
          onClick={() =>
            void keep(index.sheet, { words: wordsToKeep(index, words, which, withBits<string>(spec, table)) })
          }
        >
          Keep as a sheet of yours
        </ActButton>
        <span role="status">{said}</span>
      </div>
    </Panel>
  );
}
