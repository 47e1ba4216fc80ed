'use client';

import { memo } from 'react';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useBench } from '../../bench/bench-context';
import { liveOf } from '../../bench/state/known-state';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { jogsOf, type Jog, type Jogs } from '../../core/places/jog';
import { parseQuantity } from '../../core/scaling/quantity';
import { toRaw } from '../../core/scaling/scale';
import { chainOf, meaningOf } from '../../core/drive/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { jogCaution } from '../../core/drive/jog';
import { HoldButton } from '../../ui/hold-button';
import { Panel, Warning } from '../../ui/panel';
import { useSteady } from '../../ui/use-steady';

/** A speed of a jog as it is typed; the raw reference, or why there is none. */
function referenceOf(index: SheetIndex, text: string): { readonly raw: number | null; readonly trouble: string } {
  const place = index.byRole.get('speed-reference');
  const chain = place && chainOf(index.sheet, place);
  if (text.trim() === '' || !chain) return { raw: null, trouble: '' };
  const value = parseQuantity(text, chain.unit);
  if (!value.ok) return { raw: null, trouble: value.error.text };
  const scaled = toRaw(chain, value.value);
  if (!scaled.ok) return { raw: null, trouble: scaled.error.text };
  const fault = scaled.value.faults[0];
  return fault ? { raw: null, trouble: fault.text } : { raw: parseInt(`${scaled.value.raw}`, 10), trouble: '' };
}

/** How fast it turns, in words. */
function speedText(index: SheetIndex, at: Extract<Jogs, { kind: 'jogs' }>['at'], known: number | undefined): string {
  if (at === 'reference') return 'at the speed that is typed here; the reference stays at the drive afterwards';
  if (at === 'move-speed') return 'at the speed that is set for moves, until it is let go';
  const place = index.byRole.get('jog-speed');
  const word = known ?? place?.default;
  if (!place || word === undefined) return 'at the drive’s own jog speed';
  return `at ${meaningOf(index, place, word)} by ${place.number}${known === undefined ? ', as it leaves the factory; not read yet' : ''}`;
}

interface JogButtonProps {
  readonly id: Jog['id'];
  readonly text: string;
  readonly disabled: boolean;
  readonly onHold: (id: Jog['id']) => void;
  readonly onHeld: () => void;
  readonly onRelease: () => void;
}

/** One direction. What it sends is made anew whenever the drive is read; the button is drawn anew where it says something else. */
const JogButton = memo(function JogButton({ id, text, disabled, onHold, onHeld, onRelease }: JogButtonProps) {
  return (
    <HoldButton disabled={disabled} onHold={() => onHold(id)} onHeld={onHeld} onRelease={onRelease}>
      Hold: {text}
    </HoldButton>
  );
});

/** Jogging: the shaft turns only while a button is held, and what stops it should the link or this page break. */
export function JogPanel({ index }: { readonly index: SheetIndex }) {
  const bench = useBench();
  const { view, key, name, isOpen, drive, places } = useCurrent();
  const form = useForm('jog', key);
  const typed = form.text('speed');
  const noStop = useNoStop(index);
  const proven = form.text('watchdog') === 'proven';
  const reference = referenceOf(index, typed);
  const known = (role: Parameters<typeof liveOf>[2]): number | undefined => liveOf(index, view, role)?.word;
  const jogs = drive && places ? jogsOf(index, places, drive.station, known, reference.raw) : null;
  const hold = useSteady((id: Jog['id']) => {
    const jog = jogs?.kind === 'jogs' && jogs.jogs.find((one) => one.id === id);
    if (drive && jog) bench.hold(drive, jog);
  });
  const renew = useSteady(() => {
    if (drive) bench.held(drive);
  });
  const release = useSteady(() => {
    if (drive) bench.letGo(drive);
  });
  if (!jogs) return null;
  const takesSpeed =
    jogs.kind === 'none' ? index.profile?.runs !== null && index.profile !== null : jogs.at === 'reference';
  const caution = jogCaution(index, known, proven);
  const speed = index.byRole.get('speed-reference');
  const unit = (speed && chainOf(index.sheet, speed)?.unit) ?? '';
  return (
    <Panel
      title="Jog"
      aside={
        jogs.kind === 'jogs' ? `turns only while it is held down, ${speedText(index, jogs.at, known('jog-speed'))}` : ''
      }
    >
      {takesSpeed && speed && (
        <TextField
          label={`speed while held, ${unit}`}
          value={typed}
          error={reference.trouble !== ''}
          helperText={reference.trouble}
          onChange={(event) => form.put('speed', event.target.value)}
          sx={{ width: 200, mb: 1 }}
        />
      )}
      {jogs.kind === 'none' && <p>{jogs.why}.</p>}
      {jogs.kind === 'jogs' &&
        jogs.jogs.map((jog) => (
          <JogButton
            key={jog.id}
            id={jog.id}
            text={`${name} ${jog.id}, ${jog.shown}`}
            disabled={!isOpen || reference.trouble !== '' || noStop.off !== ''}
            onHold={hold}
            onHeld={renew}
            onRelease={release}
          />
        ))}
      {jogs.kind === 'jogs' && noStop.off !== '' && <p>Off: {noStop.off}.</p>}
      {jogs.kind === 'jogs' && !isOpen && <p>The line is closed; opening it sends nothing.</p>}
      {jogs.kind === 'jogs' && caution !== '' && <Warning>{caution}</Warning>}
      {jogs.kind === 'jogs' && (
        <FormControlLabel
          control={
            <Checkbox
              checked={proven}
              onChange={(event) => form.put('watchdog', event.target.checked ? 'proven' : '')}
            />
          }
          label="I saw the shaft stop by itself when the link was cut"
        />
      )}
    </Panel>
  );
}
