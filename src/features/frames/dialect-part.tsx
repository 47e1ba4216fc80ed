'use client';

import { newestOf } from '../../core/sheet/shelf';
import { messageOf } from '../../core/message-of';
import { useMemo, useState, type KeyboardEvent } from 'react';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import type { Dialect } from '../../core/dialect/dialect';
import { commandHelp, frameHelp } from '../../core/dialect/help';
import type { SheetFault } from '../../core/sheet/sheet-fault';
import { withStation } from '../../core/job/job';
import { ActButton, whyOff } from '../../ui/act-button';
import { ChoiceField } from '../../ui/fields';
import { Panel, StageHead, Warning } from '../../ui/panel';
import { DialectCommands } from './dialect-commands';
import { DialectFrame } from './dialect-frame';
import { EMPTY_DIALECT, placeText, sheetOf, slugOf } from './dialect-draft';
import { DialectErrors } from './dialect-errors';
import { DialectMotion } from './dialect-motion';
import { DialectSamples } from './dialect-samples';
import styles from './frames.module.css';

const NO_FAULTS: readonly SheetFault[] = [];

/** Describe a drive's own command language: how its lines are framed, its commands, and sample lines that show at once what is understood. */
export function DialectPart() {
  const bench = useBench();
  const { line, station, index } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const draft = useDrafts((drafts) => drafts.dialect);
  const [baseSlug, setBase] = useTyped('dialect', '', 'base', index?.sheet.slug ?? '');
  const [said, setSaid] = useState('');
  const base = sheets.get(baseSlug)?.sheet ?? null;
  const start = base?.dialect ?? EMPTY_DIALECT;
  const dialect = draft?.present ?? start;
  const drafts = bench.drafts.getState();
  const put = (change: Partial<Dialect>): void => {
    setSaid('');
    drafts.putDialect({ ...dialect, ...change }, start);
  };
  const stepByKey = (event: KeyboardEvent): void => {
    const key = event.key.toLowerCase();
    if (!(event.ctrlKey || event.metaKey) || event.altKey || (key !== 'z' && key !== 'y')) return;
    event.preventDefault();
    if (key === 'y' || event.shiftKey) drafts.redoDialect();
    else drafts.undoDialect();
  };
  const begin = (slug: string): void => {
    const from = sheets.get(slug)?.sheet.dialect ?? EMPTY_DIALECT;
    setBase(slug);
    drafts.putDialect(slug === '' ? from : { ...from, name: `${from.name} (mine)` }, dialect);
  };
  const known = sheets.get(slugOf(dialect.name))?.sheet;
  const built = useMemo(() => sheetOf(dialect, (known?.revision ?? 0) + 1, base), [dialect, known, base]);
  const keep = async (use: boolean): Promise<void> => {
    if (!built.ok) return;
    try {
      await bench.keepSheet(built.value);
    } catch (error) {
      return setSaid(messageOf(error));
    }
    const { slug, revision, name } = built.value;
    const isSpoken =
      use &&
      line &&
      station &&
      bench.changeJob((job) =>
        withStation(job, line.id, station.station, (own) => ({ ...own, sheet: { slug, revision } })),
      );
    setSaid(
      `kept as sheet “${name}”${isSpoken ? `, and station ${station.station} of ${line.name} speaks it now` : ''}`,
    );
  };
  const dialects = newestOf(sheets).filter(({ sheet }) => sheet.dialect);
  return (
    <div className={styles.stack}>
      <StageHead title={dialect.name} aside={frameHelp(dialect)}>
        <ChoiceField
          label="Begin anew from"
          width={170}
          value={baseSlug && sheets.get(baseSlug)?.sheet.dialect ? baseSlug : ''}
          onChange={begin}
          options={[['', 'nothing'], ...dialects.map(({ sheet }) => [sheet.slug, sheet.name] as const)]}
        />
        <ActButton
          variant="outlined"
          color="inherit"
          off={draft?.past.length ? '' : 'nothing was changed'}
          onClick={drafts.undoDialect}
        >
          Undo
        </ActButton>
        <ActButton
          variant="outlined"
          color="inherit"
          off={draft?.future.length ? '' : 'nothing was undone'}
          onClick={drafts.redoDialect}
        >
          Redo
        </ActButton>
        <ActButton
          variant="outlined"
          color="inherit"
          off={built.ok ? '' : 'see the faults below'}
          onClick={() => void keep(false)}
        >
          Keep as a sheet
        </ActButton>
        <ActButton
          variant="contained"
          off={whyOff(
            [!built.ok, 'see the faults below'],
            [!station, 'no station is chosen'],
            [line?.protocol !== 'ascii', 'this line speaks something else'],
          )}
          onClick={() => void keep(true)}
        >
          Keep and use it here
        </ActButton>
      </StageHead>
      {said && <p role="status">{said}</p>}
      {!built.ok &&
        built.error.slice(0, 6).map(({ path, text }) => (
          <Warning key={path + text}>
            {placeText(dialect, path)}: {text}
          </Warning>
        ))}
      <DialectSamples dialect={dialect} />
      {/* Sample lines are no part of the description: there the keys are the browser's own. */}
      <div className={styles.stack} onKeyDown={stepByKey}>
        <DialectFrame dialect={dialect} onChange={put} />
        <DialectCommands dialect={dialect} faults={built.ok ? NO_FAULTS : built.error} onChange={put} />
        <DialectErrors errors={dialect.errors ?? []} onChange={(errors) => put({ errors })} />
        <DialectMotion motion={dialect.motion} onChange={(motion) => put({ motion })} />
      </div>
      <Panel title="Help, made from this description">
        <dl className={styles.help}>
          {dialect.commands
            .flatMap((command) => commandHelp(dialect, command))
            .map(({ syntax, meaning }) => (
              <div key={syntax + meaning}>
                <dt>
                  <code>{syntax}</code>
                </dt>
                <dd>{meaning}</dd>
              </div>
            ))}
        </dl>
      </Panel>
    </div>
  );
}
