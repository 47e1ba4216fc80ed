import type { ScalingChain, ScalingStep, WireWord } from './chain';

/** A usual full scale, to begin a chain from. */
export interface ScalePreset {
  readonly id: string;
  readonly name: string;
  /** Where the convention comes from. */
  readonly source: string;
  readonly chain: ScalingChain;
}

const WORD: WireWord = { bits: 16, signed: true };
const DOUBLE: WireWord = { bits: 32, signed: true };
const PRACTICE = 'common practice, no source';

const preset = (
  id: string,
  name: string,
  source: string,
  unit: string,
  steps: readonly ScalingStep[],
  word: WireWord = WORD,
): ScalePreset => ({ id, name, source, chain: { unit, steps, rounding: 'nearestHalfUp', word } });

const fullScale = (value: string, raw: string): ScalingStep => ({ kind: 'full-scale', value, raw });
const resolution = (value: string): ScalingStep => ({ kind: 'resolution', value });

/** Counts of a 17-bit encoder. */
const COUNTS: ScalingStep = { kind: 'counts-per-turn', counts: '131072' };

export const SCALE_PRESETS: readonly ScalePreset[] = [
  preset('n2', '0x4000 = 100 %', 'IEC 61800-7-203, N2', '%', [fullScale('100', '16384')]),
  preset('n4', '0x40000000 = 100 %', 'IEC 61800-7-203, N4', '%', [fullScale('100', '1073741824')], DOUBLE),
  preset('n15', '0x7FFF = 100 %', PRACTICE, '%', [fullScale('100', '32767')]),
  preset('ten-thousand', '10000 = 100 %', PRACTICE, '%', [fullScale('100', '10000')]),
  preset('tenth-hz', '0.1 Hz a count', PRACTICE, 'Hz', [resolution('0.1')]),
  preset('hundredth-hz', '0.01 Hz a count', PRACTICE, 'Hz', [resolution('0.01')]),
  preset('rpm', '1 rpm a count', PRACTICE, 'rpm', [resolution('1')]),
  preset('tenth-rpm', '0.1 rpm a count', PRACTICE, 'rpm', [resolution('0.1')], DOUBLE),
  preset('tenth-percent', '0.1 % a count', PRACTICE, '%', [resolution('0.1')]),
  preset('hundredth-percent', '0.01 % a count', PRACTICE, '%', [resolution('0.01')]),
  preset('rpm-through-poles', 'rpm of 4 poles, 0.01 Hz a count', PRACTICE, 'rpm', [
    { kind: 'motor-poles', poles: 4 },
    resolution('0.01'),
  ]),
  preset(
    'counts-per-second',
    '17-bit encoder, counts/s',
    'sheet Pipit',
    'rpm',
    [{ kind: 'minutes-to-seconds' }, COUNTS],
    DOUBLE,
  ),
  preset(
    'screw',
    '8 mm lead, 7:2 gear, 2^17 counts a turn, 1/16 count/s',
    'sheet Pipit',
    'mm/s',
    [
      { kind: 'lead', perTurn: '8' },
      { kind: 'gear', motor: '7', load: '2' },
      { kind: 'counts-per-turn', counts: '131072' },
      resolution('1/16'),
    ],
    DOUBLE,
  ),
  preset(
    'rotary-table',
    '360° modulo one turn, 36000 counts',
    PRACTICE,
    '°',
    [{ kind: 'modulo', turn: '360' }, fullScale('360', '36000')],
    { bits: 16, signed: false },
  ),
  preset('analogue', '4095 counts of an analogue input to 0x4000 = 100 %', PRACTICE, 'counts', [
    { kind: 'source-counts', raw: '4095', value: '100' },
    fullScale('100', '16384'),
  ]),
];
