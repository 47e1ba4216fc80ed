'use client';

import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useOpenLine } from '../../bench/hooks/use-open-line';
import { counted } from '../../core/counted';
import { nextGroup } from '../../core/sets/set-reading';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton, LINE_CLOSED } from '../../ui/act-button';
import { Panel, StageHead } from '../../ui/panel';
import { Tabs } from '../../ui/tabs';
import { BlockPart } from './block-part';
import { CyclePart } from './cycle-part';
import { OneAddress } from './one-address';
import { PlanPart } from './plan-part';
import { PlatePart } from './plate-part';
import { PositionPart } from './position-part';
import { progressText } from './progress-text';
import { registersStore, useRegisters } from '../../bench/registers/registers-store';
import styles from './registers.module.css';
import { pause } from '../../bench/registers/run-at';
import { goOnReading, nowId, readAll } from '../../bench/registers/run-reading';
import { useKeptSets } from '../../bench/registers/use-kept-sets';
import { ValuesPart } from './values-part';
import { VisitsPart } from './visits-part';

const PARTS = [
  { id: 'values', name: 'Values', Body: ValuesPart },
  { id: 'plan', name: 'Plan and write', Body: PlanPart },
  { id: 'visits', name: 'Visits and files', Body: VisitsPart },
  { id: 'plate', name: 'From the plate', Body: PlatePart },
  { id: 'position', name: 'Position and limits', Body: PositionPart },
  { id: 'cycle', name: 'Play the controller', Body: CyclePart },
] as const;
type PartId = (typeof PARTS)[number]['id'] | (typeof ANYWHERE)[number]['id'];

/** Parts that need no station. */
const ANYWHERE = [
  { id: 'address', name: 'One address', Body: OneAddress },
  { id: 'block', name: 'Cyclic block', Body: BlockPart },
] as const;

/** Registers: every value of a drive, who says what of it, and what is to be written. */
export function RegistersStage() {
  const { station, index, name, places } = useCurrent();
  const part = useRegisters((state) => state.part) as PartId;
  useKeptSets();
  // What is written live ends with the view.
  useEffect(() => () => registersStore.setState({ live: '' }), []);
  const { id, Body } = PARTS.find((candidate) => candidate.id === part) ?? PARTS[0];
  const why = !station
    ? 'Choose a station in Job first: then its values are read, compared and written here.'
    : !index || index.parameters.length === 0
      ? `No sheet lists the values of ${name}: make one in Sheets, from its manual, a table, a description file or the drive itself.`
      : !places
        ? 'This line speaks no language in which these values can be asked for.'
        : '';
  const anywhere = ANYWHERE.find((candidate) => candidate.id === part);
  const chosen = anywhere?.id ?? id;
  return (
    <>
      <StageHead title="Registers" aside={index ? `${name}, ${counted(index.parameters.length, 'value')}` : name}>
        {why === '' && index && <ReadButtons index={index} />}
      </StageHead>
      {why === '' && <Progress />}
      <Tabs<PartId>
        label="What is done with the values"
        tabs={[...PARTS, ...ANYWHERE]}
        chosen={chosen}
        onChoose={(next) => registersStore.setState({ part: next })}
      >
        {anywhere ? (
          <anywhere.Body />
        ) : why === '' && index ? (
          <Body index={index} />
        ) : (
          <Panel title="Values of a drive">{why}</Panel>
        )}
      </Tabs>
    </>
  );
}

function ReadButtons({ index }: { readonly index: SheetIndex }) {
  const bench = useBench();
  const { line, drive, key, isOpen, name } = useCurrent();
  const opening = useOpenLine(line);
  const job = useBenchState((state) => state.job?.id ?? '');
  const running = useRegisters((state) => state.running.get(key) ?? null);
  const row = useRegisters((state) => state.sets.get(nowId(job, key)) ?? null);
  if (!drive) return null;
  if (running)
    return (
      <Button variant="outlined" color="inherit" disabled={running.isPausing} onClick={() => pause(key)}>
        {running.isPausing ? 'Pausing …' : 'Pause'}
      </Button>
    );
  const isHalf =
    row !== null &&
    nextGroup(row.reading) !== null &&
    row.sheet.slug === index.sheet.slug &&
    row.sheet.revision === index.sheet.revision;
  return (
    <>
      {!isOpen && (
        <ActButton variant="outlined" color="inherit" off={opening.off} onClick={opening.open}>
          Open {line?.name}
        </ActButton>
      )}
      {isHalf && (
        <ActButton
          variant="contained"
          off={isOpen ? '' : LINE_CLOSED}
          onClick={() => void goOnReading(bench, drive, index, row)}
        >
          Go on reading
        </ActButton>
      )}
      <ActButton
        variant={isHalf ? 'outlined' : 'contained'}
        off={isOpen ? '' : LINE_CLOSED}
        onClick={() => void readAll(bench, drive, index)}
      >
        Read all values of {name}
      </ActButton>
    </>
  );
}

function Progress() {
  const { key } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const running = useRegisters((state) => state.running.get(key) ?? null);
  const said = useRegisters((state) => state.said.get(key) ?? '');
  const row = useRegisters((state) => state.sets.get(nowId(job, key)) ?? null);
  // The clock of the line ticks while something runs: the time left is worked out anew with it.
  const nowUs = useBenchState((state) => (running ? state.nowUs : 0));
  const text = row ? progressText(row, running, nowUs) : 'nothing was read yet';
  return (
    <p role="status" className={styles.progress}>
      {text}
      {said !== '' && running === null && <strong> · {said}</strong>}
    </p>
  );
}
