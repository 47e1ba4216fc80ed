import type { SerialSettings } from '../line/settings';
import { meaningOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';
import { seenIn, type SeenWord } from '../drive/seen';

/** Whether the link has shown that a step was done; a step without a value can only be ticked by hand. */
export type StepCheck =
  | { readonly kind: 'by-hand' }
  | { readonly kind: 'unknown' }
  | { readonly kind: 'met' | 'differs'; readonly text: string; readonly atUs: number };

export interface KeypadStep {
  readonly path: string;
  readonly what: string;
  readonly note: string;
  readonly parameter: PlacedParameter | null;
  /** The value that is wanted, as a number and as the drive's display shows it; null and empty where the step has none. */
  readonly want: number | null;
  readonly display: string;
  readonly meaning: string;
  readonly check: StepCheck;
}

const formText = ({ dataBits, parity, stopBits }: SerialSettings): string => `${dataBits}${parity}${stopBits}`;

/** The list of what must be set at the keypad for this line and station, in the sheet's order, verified by what the link has shown. */
export function keypadCard(
  index: SheetIndex,
  serial: SerialSettings | null,
  station: number,
  seen: (cell: Cell) => SeenWord | undefined,
): readonly KeypadStep[] {
  return (index.sheet.keypad?.steps ?? []).map((step) => {
    const parameter = (step.parameter !== undefined && index.byNumber.get(step.parameter)) || null;
    const want = parameter && step.want ? rawOf(step.want, parameter, serial, station) : null;
    return {
      path: step.path,
      what: step.what,
      note: step.note ?? '',
      parameter,
      want,
      display: want === null ? '' : (step.shows?.find(({ raw }) => raw === want)?.text ?? `${want}`),
      meaning: want === null || !parameter ? '' : meaningOf(index, parameter, want),
      check: checkOf(index, parameter, want, seen),
    };
  });
}

type Want = NonNullable<NonNullable<SheetIndex['sheet']['keypad']>['steps'][number]['want']>;

/** The raw value for what the job says; null where the drive has no such choice. */
function rawOf(want: Want, parameter: PlacedParameter, serial: SerialSettings | null, station: number): number | null {
  const choice = (name: string): number | null => parameter.choices?.find((one) => one.name === name)?.value ?? null;
  switch (want.kind) {
    case 'raw':
      return want.raw;
    case 'station':
      return station;
    case 'bit-rate':
      return serial && choice(`${serial.rate}`);
    case 'character-form':
      return serial && choice(formText(serial));
  }
}

function checkOf(
  index: SheetIndex,
  parameter: PlacedParameter | null,
  want: number | null,
  seen: (cell: Cell) => SeenWord | undefined,
): StepCheck {
  if (!parameter || want === null) return { kind: 'by-hand' };
  const found = seenIn(parameter, seen);
  if (!found) return { kind: 'unknown' };
  return {
    kind: found.word === want ? 'met' : 'differs',
    text: meaningOf(index, parameter, found.word),
    atUs: found.atUs,
  };
}
