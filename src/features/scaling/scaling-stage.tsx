'use client';

import Button from '@mui/material/Button';
import { useBench, useDrafts } from '../../bench/bench-context';
import { liveOf } from '../../bench/known-state';
import { useCurrent } from '../../bench/use-current';
import { useWatch } from '../../bench/use-watch';
import { useWrite } from '../../bench/use-write';
import { bytesToHex } from '../../core/bytes/hex';
import {
  compare,
  decimalText,
  fractionText,
  parseRational,
  ratio,
  subtract,
  type Rational,
} from '../../core/scaling/rational';
import { ROUNDING_TEXT } from '../../core/scaling/rounding';
import { toRaw, toValue, type Scaled } from '../../core/scaling/scale';
import {
  readingText,
  speedScaleOf,
  stepCounts,
  type ReadingKind,
  type SpeedScale,
} from '../../core/scaling/speed-scale';
import { chainOf } from '../../core/sheet/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { Panel, StageHead, Warning } from '../../ui/panel';
import { useKeys } from '../../ui/use-keys';
import { WatchButtons } from '../../ui/watch-buttons';
import { ReadingEntry } from './reading-entry';
import { limitText, ScalePicture, type Limit } from './scale-picture';
import styles from './scaling.module.css';

const ZERO = ratio(0n);

function scaleOf(index: SheetIndex | null, poles: number | undefined): SpeedScale | null {
  const place = index?.byRole.get('speed-reference');
  const chain = index && place ? chainOf(index.sheet, place) : null;
  return chain && speedScaleOf(chain, poles ?? index?.byRole.get('motor-poles')?.default ?? 4);
}

/** Scaling: one speed in every reading at once, what rounding costs, and the chain of working below. */
export function ScalingStage() {
  const bench = useBench();
  const { station, index, view, key, name, isOpen } = useCurrent();
  const write = useWrite('Scaling');
  const watch = useWatch('Scaling');
  const typed = useDrafts((drafts) => drafts.references.get(key) ?? '');
  const valueOf = (role: ParameterRole): number | undefined => liveOf(index, view, role)?.word;
  const scale = scaleOf(index, valueOf('motor-poles'));
  const parsed = parseRational(typed);
  const wanted = parsed.ok ? parsed.value : ZERO;
  const scaled = scale && toRaw(scale.chain, wanted);
  const place = index?.byRole.get('speed-reference');
  const trouble = scaled?.ok && place ? limitTrouble(scaled.value, place.min, place.max) : '';
  const ready = scaled?.ok && isOpen && trouble === '' ? scaled.value : null;

  const setWanted = (value: Rational): void => bench.drafts.getState().setReference(key, exactText(value));
  const send = (): void => {
    if (ready) write('speed-reference', ready.wire);
  };
  useKeys({ 'Ctrl+Enter': send });

  if (!station || !index || !place || !scale || !scaled?.ok)
    return <StageHead title="Scaling" aside="this station has no sheet with a scaled speed reference" />;
  const value = (role: ParameterRole): Rational | null => {
    const word = valueOf(role) ?? (role === 'actual-speed' ? undefined : index.byRole.get(role)?.default);
    const found = word === undefined ? null : toValue(scale.chain, BigInt(word));
    return found?.ok ? found.value.value : null;
  };
  const step = (counts: bigint): void => {
    const next = stepCounts(scale, wanted, counts);
    if (next.ok) setWanted(next.value);
  };
  const live = value('actual-speed');
  const text = (kind: ReadingKind): string => readingText(scale, kind, scaled.value);
  return (
    <div className={styles.stack}>
      <StageHead title={`Speed reference of ${name}`} aside={`${place.number}, sheet ${index.sheet.name}`}>
        <Button variant="outlined" color="inherit" onClick={() => step(-1n)}>
          One count less
        </Button>
        <Button variant="outlined" color="inherit" onClick={() => step(1n)}>
          One count more
        </Button>
        {isOpen && <WatchButtons watching={watch.watching} onReadOnce={watch.readOnce} onToggle={watch.toggle} />}
        <Button variant="contained" disabled={!ready} onClick={send} aria-keyshortcuts="Control+Enter">
          Send {scaled.value.hex} to {name}
        </Button>
      </StageHead>
      <Panel
        title="One speed, five scales"
        aside={
          wanted.num < 0n
            ? 'backward: the scales show its size'
            : 'type into any reading; solid: sent, dashed: wanted, dotted: the drive'
        }
      >
        <ScalePicture
          scale={scale}
          wanted={wanted}
          sent={scaled.value.sent}
          sentText={`${text('unit')} ${scale.chain.unit}`}
          live={live}
          liveText={live ? `the drive says ${limitText(live, scale.chain.unit)}` : ''}
          limits={limitsOf(scale, value('minimum-speed'), value('maximum-speed'))}
          onStep={step}
        />
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
          <ReadingEntry scale={scale} kind="rpm" label="shaft, rpm" text={text('rpm')} onWanted={setWanted} />
          <ReadingEntry scale={scale} kind="percent" label="share, %" text={text('percent')} onWanted={setWanted} />
          <ReadingEntry scale={scale} kind="decimal" label="decimal" text={text('decimal')} onWanted={setWanted} />
          <ReadingEntry scale={scale} kind="hex" label="hex" text={text('hex')} onWanted={setWanted} />
        </div>
        {trouble !== '' && <Warning>{trouble}</Warning>}
      </Panel>
      <Chain scale={scale} wanted={wanted} scaled={scaled.value} number={place.number} />
    </div>
  );
}

/** A decimal where it ends soon, else the fraction: what is kept is exact either way. */
function exactText(value: Rational): string {
  const text = decimalText(value, 6);
  return text.startsWith('≈') ? fractionText(value) : text.replace('−', '-');
}

function limitTrouble({ raw, faults }: Scaled, min: number, max: number): string {
  if (faults[0]) return faults[0].text;
  return raw < BigInt(min) || raw > BigInt(max)
    ? `${raw} counts are outside the sheet’s limits, ${min} to ${max}: not sent.`
    : '';
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

/** The chain as boxes, each with its sum; what rounding costs stands where it happens. */
function Chain({
  scale,
  wanted,
  scaled,
  number,
}: {
  readonly scale: SpeedScale;
  readonly wanted: Rational;
  readonly scaled: Scaled;
  readonly number: string;
}) {
  const { chain } = scale;
  const cost =
    scaled.error.num === 0n
      ? 'nothing to round'
      : `off by ${decimalText(scaled.error, 3, false)} count, ${decimalText(subtract(scaled.sent, wanted), 3, false)} ${chain.unit}`;
  const boxes: readonly (readonly [string, string, string])[] = [
    ['wanted', `${decimalText(wanted, 4)} ${chain.unit}`, 'at the motor terminals'],
    ['full scale', scaled.working[0]?.split(' = ')[0] ?? '', `= ${decimalText(scaled.exact, 4)}`],
    ['rounding', `${scaled.raw}`.replace('-', '−'), `${ROUNDING_TEXT[chain.rounding]}; ${cost}`],
    [
      'sign',
      chain.word.signed ? 'two’s complement' : 'no sign',
      scaled.raw < 0n ? `backward, ${scaled.hex}` : 'forward',
    ],
    [
      'register',
      `${number} ← ${bytesToHex([scaled.wire >> 8, scaled.wire & 0xff], ' ').toUpperCase()}`,
      'high byte first',
    ],
  ];
  return (
    <ol className={styles.chain} aria-label="Chain of working">
      {boxes.map(([title, sum, note]) => (
        <li key={title}>
          <span>{title}</span>
          <strong>{sum}</strong>
          <div>{note}</div>
        </li>
      ))}
    </ol>
  );
}
