'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { isUnderWay, lastRun } from '../../bench/state/runs';
import { asNumber } from '../../core/as-number';
import { patternOfCells } from '../../core/drive/seen';
import {
  pathText,
  STORED_COLUMNS,
  storedEntries,
  storedPath,
  storedTableOf,
  storedText,
  type StoredColumn,
  type StoredPath,
  type StoredTable,
} from '../../core/motion/stored-moves';
import type { KnownNumber } from '../../core/drive/describe';
import { decimalText } from '../../core/scaling/rational';
import { readTyped } from '../../core/sets/typed-value';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { trialOfStored } from '../../core/trial/stored-trial';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { axisMark, endMarks } from '../../ui/axis-marks';
import { AxisPicture, type AxisMark } from '../../ui/axis-picture';
import { ChoiceField, TypedField } from '../../ui/fields';
import { HeadRow } from '../../ui/head-row';
import { Facts, Panel, Warning } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { RunBar } from './run-bar';
import { RunResult } from './run-result';
import { Asking } from './trial-panel';
import styles from './trials.module.css';
import type { MoveProps } from './move-panel';
import { useAxis, type SeenAxis } from './use-axis';
import { useCompiled } from './use-compiled';
import { useDrawing } from './use-drawing';
import { useSame } from './use-same';

const COLUMN_TEXT: Readonly<Record<StoredColumn, string>> = {
  from: 'counted from',
  to: 'to, or by',
  speed: 'speed',
  rest: 'rest after it',
  then: 'then',
};

/** The moves that the drive keeps itself: its table, changed and started, with what a start comes to worked out before. Nothing where it keeps none. */
export function StoredPanel(props: MoveProps) {
  const own = useAxis(props.index);
  const table = storedTableOf(props.index);
  return own && table ? <Stored {...props} {...own} table={table} /> : null;
}

function Stored({
  isRunShown,
  index,
  places,
  axis,
  known,
  held,
  isLost,
  table,
}: MoveProps & SeenAxis & { readonly table: StoredTable }) {
  const bench = useBench();
  const unread = useUnread();
  const { key, name, drive, isOpen } = useCurrent();
  const { text, put } = useForm('stored moves', key);
  const first = Math.max(1, parseInt(text('first', '1'), 10));
  const row = table.rows[Math.max(1, parseInt(text('row', '1'), 10)) - 1];
  const typed = typedIn(index, table, held, (place) => text(place.number));
  const after: KnownNumber = (number) => typed.patterns.get(number) ?? held(number);
  const path = storedPath(axis, table, first, known('actual-position'), after, known);
  const made = path.ok ? path.value : null;
  const trials = useSame([trialOfStored(first, typed.texts, made)]);
  const [compiled] = useCompiled(trials, index, places);
  const drawing = useDrawing(index);
  const live = useBenchState((state) => lastRun(state, state.lineId, 'trial'));
  const running = live !== null && isUnderWay(live) ? live : null;
  const entries = storedEntries(table);
  const isRead = entries.some(({ number }) => held(number) !== undefined);
  const fromZero =
    made?.legs.some(({ number }) => (after(table.rows[number - 1]?.from?.number ?? '') ?? 0) === 0) === true;
  const off = whyOff(
    [unread.why !== '', unread.why],
    [!isRead, 'the drive’s table was not read yet'],
    [!path.ok, path.ok ? '' : path.error],
    [
      made?.roundTo !== null,
      'it goes round without an end: nobody would wait for it; it is started in Words, and stopped by hand',
    ],
    [isLost && fromZero, 'home is not known since power came: look for home first'],
    [known('actual-position') === null, 'where it stands was not read just now: press Read once, or Watch'],
  );
  return (
    <UnreadForm unread={unread}>
      <Panel title="Stored moves" aside={`${table.rows.length} that ${name} keeps itself; each goes on to the next`}>
        <div className={styles.row}>
          <ActButton
            variant="outlined"
            color="inherit"
            off={isOpen ? '' : LINE_CLOSED}
            onClick={() => {
              if (drive) for (const bytes of places.read(drive.station, entries)) bench.send(drive, bytes, 'Trials');
            }}
          >
            Read the table
          </ActButton>
          <ChoiceField
            label="start with"
            width={130}
            value={`${first}`}
            onChange={(value) => put('first', value)}
            options={table.rows.map(({ number }) => [`${number}`, `move ${number}`] as const)}
          />
        </div>
        <div className={styles.wide}>
          <table className={`${styles.table} ${styles.stored}`} aria-label="Stored moves">
            <HeadRow names={['move', ...STORED_COLUMNS.map((column) => COLUMN_TEXT[column])]} />
            <tbody>
              {table.rows.map((own) => (
                <tr key={own.number} aria-current={own === row ? 'true' : undefined}>
                  <td>
                    <Button
                      variant="text"
                      color={own === row ? 'primary' : 'inherit'}
                      aria-pressed={own === row}
                      onClick={() => put('row', `${own.number}`)}
                    >
                      {own.number}
                    </Button>
                  </td>
                  {STORED_COLUMNS.map((column) => (
                    <td key={column}>{cellText(index, own[column], held, typed.texts)}</td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {row && (
          <div className={styles.row} role="group" aria-label={`Move ${row.number}, changed`}>
            {STORED_COLUMNS.flatMap((column) => row[column] ?? []).map((place) => (
              <StoredField
                key={place.number}
                place={place}
                value={text(place.number)}
                now={storedText(index, place, held)}
                error={typed.faults.get(place.number) ?? ''}
                onChange={(next) => put(place.number, next)}
              />
            ))}
          </div>
        )}
        <Before axis={axis} known={known} path={made} />
        {!path.ok && isRead && <Warning>{path.error}.</Warning>}
        <RunBar compiled={compiled} index={index} running={running} drawing={drawing} off={off} />
        {running && <Asking view={running} />}
      </Panel>
      {!isRunShown && compiled && off === '' && (
        <RunResult index={index} compiled={compiled} row={null} drawing={drawing} />
      )}
    </UnreadForm>
  );
}

interface Typed {
  readonly texts: ReadonlyMap<string, string>;
  readonly patterns: ReadonlyMap<string, number>;
  readonly faults: ReadonlyMap<string, string>;
}

/** What is typed for entries of the table, as texts and as the drive would hold it, and what cannot be. */
function typedIn(
  index: SheetIndex,
  table: StoredTable,
  held: KnownNumber,
  text: (place: PlacedParameter) => string,
): Typed {
  const texts = new Map<string, string>();
  const patterns = new Map<string, number>();
  const faults = new Map<string, string>();
  for (const place of storedEntries(table)) {
    const said = text(place).trim();
    if (said === '') continue;
    const words = readTyped(index, place, said, held);
    const pattern = words.ok ? patternOfCells(place, words.value) : null;
    if (pattern === null) faults.set(place.number, words.ok ? 'it cannot be written as one number' : words.error);
    else if (pattern !== held(place.number)) {
      texts.set(place.number, said);
      patterns.set(place.number, pattern);
    }
  }
  return { texts, patterns, faults };
}

function cellText(
  index: SheetIndex,
  place: PlacedParameter | undefined,
  held: KnownNumber,
  typed: ReadonlyMap<string, string>,
): string {
  if (!place) return 'none';
  const [now, next] = [storedText(index, place, held) || 'not read', typed.get(place.number)];
  return next === undefined ? now : `${now} ✎ ${next}`;
}

function StoredField({
  place,
  value,
  now,
  error,
  onChange,
}: {
  readonly place: PlacedParameter;
  readonly value: string;
  readonly now: string;
  readonly error: string;
  readonly onChange: (value: string) => void;
}) {
  const label = `${place.number} ${place.name}${place.unit ? `, ${place.unit}` : ''}`;
  return place.choices ? (
    <ChoiceField
      label={label}
      width={200}
      value={value}
      error={error}
      onChange={onChange}
      options={[
        ['', now === '' ? 'as it is' : `as it is: ${now}`],
        ...place.choices.map(({ name }) => [name, name] as const),
      ]}
    />
  ) : (
    <TypedField label={label} width={200} value={value} error={error} placeholder={now} onChange={onChange} />
  );
}

/** What a start comes to, and its places on the axis. */
function Before({ axis, known, path }: Pick<SeenAxis, 'axis' | 'known'> & { readonly path: StoredPath | null }) {
  if (!path) return null;
  const start = known('actual-position');
  const end = path.legs.at(-1)?.to ?? null;
  const marks: readonly AxisMark[] = [
    ...endMarks(axis, known),
    ...axisMark(axis, 'here', start, 'stands at'),
    ...path.legs.flatMap(({ number, to }) =>
      to ? [{ kind: 'target', at: asNumber(to), text: `${number}` } as const] : [],
    ),
  ];
  return (
    <>
      <AxisPicture
        label={`The moves ${pathText(path)}`}
        marks={marks}
        arrow={start && end ? { from: asNumber(start), to: asNumber(end) } : null}
      />
      <Facts
        rows={[
          ['goes through', pathText(path)],
          ['ends at', end && path.roundTo === null ? `${decimalText(end, 3, false)} ${axis.unit}` : 'nowhere'],
          [
            'takes',
            path.seconds === null
              ? 'a time that is not known: speed or accelerations were not read'
              : `${path.seconds.toFixed(2)} s`,
          ],
        ]}
      />
    </>
  );
}
