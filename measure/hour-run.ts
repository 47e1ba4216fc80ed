import tern from '../sheets/tern.json';
import { framingOf } from '../src/core/modbus/framing';
import { registerLink } from '../src/core/places/register-link';
import { beginRun, endRun } from '../src/core/procedure/run-state';
import { indexSheet } from '../src/core/sheet/index-sheet';
import { loadSheet } from '../src/core/sheet/load-sheet';
import { compileTrial } from '../src/core/trial/compile';
import { lineOf, type Sample } from '../src/core/trial/seen-line';
import type { Trial, TrialStep } from '../src/core/trial/trial';
import type { TrialRunRow } from '../src/store/database';

const HOUR_S = 3600;
const SAMPLES_A_SECOND = 20;
/** Up, along, down, along: so often. */
const ROUNDS = 240;
const UP = 45;
const DOWN = 15;
const RAMP_S = 5;

/** A speed that goes up and down along its ramp for an hour, as it was seen twenty times a second, with a little unrest. */
function samplesOf(): readonly Sample[] {
  let speed = 0;
  const slope = (UP - DOWN) / (RAMP_S * SAMPLES_A_SECOND);
  const half = HOUR_S / ROUNDS / 2;
  return Array.from({ length: HOUR_S * SAMPLES_A_SECOND }, (_, i) => {
    const x = i / SAMPLES_A_SECOND;
    const target = Math.floor(x / half) % 2 === 0 ? UP : DOWN;
    speed += Math.sign(target - speed) * Math.min(slope, Math.abs(target - speed));
    return { x, y: speed + ((i * 7919) % 13) / 130 };
  });
}

const holds = (id: string): readonly TrialStep[] => [
  { id: `${id}-to`, kind: 'reference', to: `${id.startsWith('up') ? UP : DOWN} Hz` },
  { id: `${id}-hold`, kind: 'hold', s: HOUR_S / ROUNDS / 2 },
];

/** A trial that ran for an hour, with its steps one by one and a line of the speed of twenty points a second. */
export function hourRun(
  id: string,
  place: Pick<TrialRunRow, 'job' | 'line' | 'station' | 'name' | 'sheet'>,
): TrialRunRow {
  const loaded = loadSheet(tern);
  if (!loaded.ok) throw new Error('the sheet is not read');
  const index = indexSheet(loaded.value);
  const trial: Trial = {
    format: 1,
    id: 'an-hour',
    name: 'An hour of it',
    proves: 'Nothing.',
    leaves: 'All.',
    steps: [
      { id: 'go', kind: 'walk', to: 'running' },
      ...Array.from({ length: ROUNDS }, (_, i) => [...holds(`up-${i}`), ...holds(`down-${i}`)]).flat(),
      { id: 'halt', kind: 'stop' },
    ],
  };
  const compiled = compileTrial(trial, {
    index,
    places: registerLink(index, framingOf('modbus-rtu')),
    station: place.station,
    name: place.name,
    here: ['ready'],
    known: () => undefined,
  });
  const { procedure } = compiled;
  if (!procedure) throw new Error(compiled.why);
  const eachUs = (HOUR_S * 1e6) / procedure.steps.length;
  return {
    ...place,
    id,
    startedMs: 1_700_000_000_000,
    compiled,
    rampS: RAMP_S,
    run: {
      ...endRun(beginRun(procedure, id, 0), 'done', ''),
      at: procedure.steps.length,
      records: procedure.steps.map((_, step) => ({
        step,
        good: true,
        seen: null,
        notYetUs: null,
        exchange: step + 1,
        said: '',
        fromUs: step * eachUs,
        toUs: (step + 1) * eachUs,
      })),
    },
    samples: lineOf(samplesOf()),
    remark: '',
  };
}
