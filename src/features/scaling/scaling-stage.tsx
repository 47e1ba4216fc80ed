'use client';

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMemo, useState } from 'react';
import { useBench, useDrafts } from '../../bench/bench-context';
import { knownIn, liveOf } from '../../bench/state/known-state';
import { useBeginSheet } from '../../bench/hooks/use-begin-sheet';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm, useTyped } from '../../bench/hooks/use-typed';
import { useWatch } from '../../bench/hooks/use-watch';
import { useWrite } from '../../bench/hooks/use-write';
import { parseQuantity } from '../../core/scaling/quantity';
import { compare, decimalText, exactText, parseRational, ratio, type Rational } from '../../core/scaling/rational';
import { toRaw } from '../../core/scaling/scale';
import {
  drawn,
  readingText,
  snapped,
  stepCounts,
  type ReadingKind,
  type SideUnit,
  type SpeedScale,
} from '../../core/scaling/speed-scale';
import type { PlacedParameter } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { referenceScale } from '../../core/drive/reference-scale';
import { rolePattern, roleValue } from '../../core/drive/role-value';
import { wordsOfValue } from '../../core/sets/typed-value';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { BeginSheetPanel } from '../../ui/begin-sheet-panel';
import { Panel, StageHead, Warning } from '../../ui/panel';
import { Tabs } from '../../ui/tabs';
import { UnreadForm, useUnread } from '../../ui/unread';
import { useKeys } from '../../ui/use-keys';
import { WatchButtons } from '../../ui/watch-buttons';
import { CardPart } from './card-part';
import { ChainPart } from './chain-part';
import { FitPart } from './fit-part';
import { PointsPart } from './points-part';
import { PresetsPart } from './presets-part';
import { RampPart } from './ramp-part';
import { ReadBackPart } from './read-back-part';
import { ReadingEntry } from './reading-entry';
import { RoundingPart } from './rounding-part';
import { limitTrouble } from './limit-trouble';
import { limitText, ScalePicture, type Limit, type Range } from './scale-picture';
import styles from './scaling.module.css';

const ZERO = ratio(0n);

/** Least counts that the picture shows. */
const LEAST_COUNTS = 12;

const PARTS = [
  { id: 'chain', name: 'Chain', title: 'The chain of working', Body: ChainPart },
  { id: 'points', name: 'Points', title: 'Points for the test sheet', Body: PointsPart },
  { id: 'rounding', name: 'Rounding', title: 'What rounding costs', Body: RoundingPart },
  { id: 'usual', name: 'Usual scales', title: 'Usual scales', Body: PresetsPart },
  { id: 'fit', name: 'Find a scale', title: 'The scale behind observed pairs', Body: FitPart },
  { id: 'ramp', name: 'Ramp', title: 'Ramp time and acceleration', Body: RampPart },
  { id: 'read-back', name: 'Read-back', title: 'Written against read back', Body: ReadBackPart },
  { id: 'card', name: 'Word card', title: 'Word card', Body: CardPart },
] as const;

const titleOf = (part: string): string => PARTS.find(({ id }) => id === part)?.title ?? '';

/** How much of the machine's unit belongs to one of the chain's, as typed; null where nothing sensible is. */
function machineOf(unit: string, per: string): SideUnit | null {
  const factor = parseRational(per);
  return unit.trim() !== '' && factor.ok && factor.value.num > 0n ? { unit: unit.trim(), factor: factor.value } : null;
}

/** Why nothing can be sent: no value, none that can be read, one outside the limits, a reading that shows something else; empty where it can. */
function offBecause(typed: string, parsed: ReturnType<typeof parseQuantity>, trouble: string, unread: string): string {
  if (unread !== '') return unread;
  if (typed.trim() === '') return 'Nothing is wanted yet: type a value, or drag the line.';
  return parsed.ok ? trouble : `“${typed}”: ${parsed.error.text}`;
}

/** The unit in which the machine is spoken of, such as metres of belt a minute. */
function MachineUnit({ stationKey, unit }: { readonly stationKey: string; readonly unit: string }) {
  const { text, put } = useForm('machine unit', stationKey);
  const field = (id: 'unit' | 'per', label: string, width: number) => (
    <TextField
      label={label}
      value={text(id)}
      onChange={(event) => put(id, event.target.value)}
      sx={{ width, mt: '6px' }}
    />
  );
  return (
    <>
      {field('unit', 'machine unit', 110)}
      {field('per', `per ${unit}`, 90)}
    </>
  );
}

/** Why there is nothing to scale, and what helps. */
const withoutScale = (place: PlacedParameter | undefined): string =>
  place?.scale?.kind === 'by'
    ? `what one count of the speed reference is, is set by ${place.scale.parameter}: open the line and press Read once`
    : 'this station has no sheet with a scaled speed reference';

/** Scaling: one speed in every reading at once, what rounding costs, and the chain of working below. */
export function ScalingStage() {
  const bench = useBench();
  const { station, index, view, key, name, isOpen } = useCurrent();
  const write = useWrite('Scaling');
  const watch = useWatch('Scaling');
  const typed = useDrafts((drafts) => drafts.references.get(key) ?? '');
  const valueOf = (role: ParameterRole): number | undefined => liveOf(index, view, role)?.word;
  const [machineUnit] = useTyped('machine unit', key, 'unit', '');
  const [machinePer] = useTyped('machine unit', key, 'per', '');
  const [part, setPart] = useTyped('scaling', '', 'part', 'chain');
  // The picture can be folded away, so that what is below comes up.
  const [picture, setPicture] = useTyped('scaling', '', 'picture', 'shown');
  const isFolded = picture === 'folded';
  const [zoomed, setZoomed] = useState<Range | null>(null);
  const poles = valueOf('motor-poles');
  const scale = useMemo(
    () => index && referenceScale(index, poles, machineOf(machineUnit, machinePer), knownIn(index, view.values)),
    [index, view.values, poles, machineUnit, machinePer],
  );
  const parsed = parseQuantity(typed, scale?.chain.unit ?? '');
  const wanted = parsed.ok ? parsed.value : ZERO;
  const scaled = scale && toRaw(scale.chain, wanted);
  const place = index?.byRole.get('speed-reference');
  const trouble = scaled?.ok && place ? limitTrouble(scaled.value, place) : '';
  const unread = useUnread();
  const begin = useBeginSheet();
  const off = offBecause(typed, parsed, trouble, unread.why);
  const ready = scaled?.ok && isOpen && off === '';
  const words = ready && index && place && wordsOfValue(index, place, wanted, knownIn(index, view.values));

  const setWanted = (value: Rational): void => bench.drafts.getState().setReference(key, exactText(value));
  const send = (): void => {
    if (words && words.ok) write('speed-reference', words.value);
  };
  useKeys({ 'Ctrl+Enter': send });

  if (!station || !index || !place || !scale || !scaled?.ok)
    return (
      <div className={styles.stack}>
        <StageHead title="Scaling" aside={withoutScale(place)}>
          {place?.scale?.kind === 'by' && isOpen && (
            <WatchButtons watching={watch.watching} onReadOnce={watch.readOnce} onToggle={watch.toggle} />
          )}
        </StageHead>
        {begin && <BeginSheetPanel {...begin} />}
        <Panel title={titleOf('usual')}>
          <PresetsPart />
        </Panel>
        <Panel title={titleOf('fit')}>
          <FitPart />
        </Panel>
      </div>
    );
  const value = (role: ParameterRole): Rational | null =>
    roleValue(index, role, role === 'actual-speed' ? valueOf(role) : rolePattern(index, role, valueOf(role)));
  const step = (counts: bigint): void => {
    const next = stepCounts(scale, wanted, counts);
    if (next.ok) setWanted(next.value);
  };
  const live = value('actual-speed');
  const whole = wholeOf(scale, wanted);
  const range = zoomed ?? whole;
  const zoom = (by: number): void => setZoomed(closer(range, whole, drawn(scaled.value.sent), by, scale));
  const { Body } = PARTS.find(({ id }) => id === part) ?? PARTS[0];
  const text = (kind: ReadingKind): string => readingText(scale, kind, scaled.value);
  return (
    <div className={`${styles.stack} ${off === '' ? styles.wide : ''}`}>
      <StageHead title={`Speed reference of ${name}`} aside={`${place.number}, sheet ${index.sheet.name}`}>
        <Button variant="outlined" color="inherit" onClick={() => step(-1n)}>
          One count less
        </Button>
        <Button variant="outlined" color="inherit" onClick={() => step(1n)}>
          One count more
        </Button>
        {isOpen && <WatchButtons watching={watch.watching} onReadOnce={watch.readOnce} onToggle={watch.toggle} />}
        <ActButton
          variant="contained"
          off={whyOff([off !== '', 'see below'], [!isOpen, LINE_CLOSED])}
          onClick={send}
          aria-keyshortcuts="Control+Enter"
        >
          Send {parsed.ok ? scaled.value.hex : ''} to {name}
        </ActButton>
      </StageHead>
      {off !== '' && <Warning>{off}</Warning>}
      <Panel
        title="One value, every scale"
        aside="drag or type; solid sent, dashed wanted, dotted drive"
        tools={
          <>
            <Button size="small" variant="outlined" color="inherit" onClick={() => zoom(0.25)}>
              Closer
            </Button>
            {zoomed !== null && (
              <Button size="small" variant="outlined" color="inherit" onClick={() => setZoomed(null)}>
                Whole
              </Button>
            )}
            <Button
              size="small"
              variant="outlined"
              color="inherit"
              aria-expanded={!isFolded}
              onClick={() => setPicture(isFolded ? 'shown' : 'folded')}
            >
              {isFolded ? 'Show the scales' : 'Fold the scales'}
            </Button>
            <MachineUnit stationKey={key} unit={scale.chain.unit} />
          </>
        }
      >
        {!isFolded && (
          <ScalePicture
            scale={scale}
            wanted={wanted}
            sent={scaled.value.sent}
            sentText={`${text('unit')} ${scale.chain.unit}`}
            live={live}
            liveText={live ? `the drive says ${limitText(live, scale.chain.unit)}` : ''}
            limits={[
              ...limitsOf(scale, value('minimum-speed'), value('maximum-speed')),
              ...skipBand(scale, value('skip-from'), value('skip-to')),
            ]}
            range={range}
            onStep={step}
            onDrag={(at, finest) => setWanted(snapped(scale, at, finest))}
            onZoom={zoom}
          />
        )}
        <UnreadForm unread={unread}>
          <div className={styles.readings}>
            <ReadingEntry
              scale={scale}
              kind="unit"
              label={`wanted, ${scale.chain.unit}`}
              text={typed}
              onWanted={setWanted}
            />
            <div className={styles.reading}>
              <span className={styles.label}>sent, {scale.chain.unit}</span>
              <output data-testid="sent">{text('unit')}</output>
            </div>
            {scale.other && (
              <ReadingEntry
                scale={scale}
                kind="other"
                label={`${scale.other.unit === 'rpm' ? 'shaft' : 'frequency'}, ${scale.other.unit}`}
                text={text('other')}
                onWanted={setWanted}
              />
            )}
            <ReadingEntry scale={scale} kind="percent" label="share, %" text={text('percent')} onWanted={setWanted} />
            {scale.machine && (
              <ReadingEntry
                scale={scale}
                kind="machine"
                label={`machine, ${scale.machine.unit}`}
                text={text('machine')}
                onWanted={setWanted}
              />
            )}
            <ReadingEntry scale={scale} kind="decimal" label="decimal" text={text('decimal')} onWanted={setWanted} />
            <ReadingEntry scale={scale} kind="hex" label="hex" text={text('hex')} onWanted={setWanted} />
          </div>
        </UnreadForm>
      </Panel>
      <Tabs label="Below the scales" tabs={PARTS} chosen={part} onChoose={setPart}>
        <Panel title={titleOf(part)}>
          <Body index={index} place={place} scale={scale} wanted={wanted} scaled={scaled.value} onWanted={setWanted} />
        </Panel>
      </Tabs>
    </div>
  );
}

/** The speeds between which the drive does not stay. */
function skipBand({ chain }: SpeedScale, from: Rational | null, to: Rational | null): readonly Limit[] {
  if (!from || !to || compare(to, from) <= 0) return [];
  return [{ from, to, text: `skipped, ${decimalText(from, 2, false)} to ${limitText(to, chain.unit)}` }];
}

/** The side of the scales on which the value lies. */
function wholeOf({ fullValue }: SpeedScale, wanted: Rational): Range {
  const full = drawn(fullValue);
  return wanted.num < 0n ? { low: -full, high: 0 } : { low: 0, high: full };
}

/** The range around the hairline, so many times as wide; null where that is the whole again. */
function closer(range: Range, whole: Range, at: number, by: number, { fullValue, fullRaw }: SpeedScale): Range | null {
  const least = (LEAST_COUNTS * drawn(fullValue)) / drawn(fullRaw);
  const span = Math.max(least, (range.high - range.low) * by);
  if (span >= whole.high - whole.low) return null;
  return { low: at - span / 2, high: at + span / 2 };
}

function limitsOf({ fullValue, chain }: SpeedScale, least: Rational | null, most: Rational | null): readonly Limit[] {
  return [
    ...(least && compare(least, ZERO) > 0
      ? [{ from: ZERO, to: least, text: `turns at its minimum, ${limitText(least, chain.unit)}` }]
      : []),
    ...(most && compare(most, fullValue) < 0
      ? [{ from: most, to: fullValue, text: `above the drive’s maximum, ${limitText(most, chain.unit)}` }]
      : []),
  ];
}
