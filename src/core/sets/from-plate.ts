import { readPlate, type Nameplate } from '../motor/nameplate';
import { WANTED, type Intent, type Wanted } from '../motor/intents';
import { chainOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { knownOf, wordsOfSaid, type SaidOf } from './said';
import { readTyped } from './typed-value';
import { patternOfNumber } from '../values/pattern';

/** One value that plate or intent asks for, or why it is not given. */
export interface PlateProposal {
  readonly role: ParameterRole;
  readonly parameter: PlacedParameter | null;
  readonly words: readonly number[] | null;
  /** Its reason with its working; where it cannot be given, why not. */
  readonly reason: string;
}

/** What plate and intent ask of a drive with this sheet, in the order of a plate: each with its working. What the sheet does not have is named. */
export function proposalsOf(
  index: SheetIndex,
  plate: Nameplate,
  intent: Intent | null,
  drive: SaidOf,
): readonly PlateProposal[] {
  const wanted = [...fromPlate(plate), ...(intent ? WANTED[intent].map((one) => fromWish(index, plate, one)) : [])];
  return wanted.map(({ role, text, reason }): PlateProposal => {
    const parameter = index.byRole.get(role) ?? null;
    if (!parameter) return { role, parameter, words: null, reason: 'the sheet has no such setting' };
    if (text === null) return { role, parameter, words: null, reason };
    if (parameter.write === 'never') return { role, parameter, words: null, reason: 'it can only be read' };
    if (typeof text === 'number')
      return { role, parameter, words: wordsOfSaid(parameter, patternOfNumber(parameter.type, text)), reason };
    const read = readTyped(index, parameter, text, knownOf(index, drive));
    return read.ok
      ? { role, parameter, words: read.value, reason }
      : { role, parameter, words: null, reason: `${text}: ${read.error}` };
  });
}

interface Asked {
  readonly role: ParameterRole;
  /** What would be typed into the setting, or a raw number of a choice; null where it cannot be said. */
  readonly text: string | number | null;
  readonly reason: string;
}

function fromPlate(plate: Nameplate): readonly Asked[] {
  const { poles } = readPlate(plate);
  const said: readonly (readonly [ParameterRole, number | null, string])[] = [
    ['rated-power', plate.powerKw, 'kW'],
    ['rated-voltage', plate.voltageV, 'V'],
    ['rated-current', plate.currentA, 'A'],
    ['rated-frequency', plate.frequencyHz, 'Hz'],
    ['rated-speed', plate.speedRpm, 'rpm'],
    ['power-factor', plate.powerFactor, ''],
  ];
  return [
    ...said.flatMap(([role, value, unit]): readonly Asked[] =>
      value === null ? [] : [{ role, text: `${value} ${unit}`.trim(), reason: `the plate: ${value} ${unit}`.trim() }],
    ),
    ...(poles ? [{ role: 'motor-poles' as const, text: `${poles.value}`, reason: poles.working }] : []),
  ];
}

function fromWish(index: SheetIndex, plate: Nameplate, { role, wish, why }: Wanted): Asked {
  const parameter = index.byRole.get(role);
  if (!parameter) return { role, text: null, reason: why };
  switch (wish.kind) {
    case 'named': {
      const choice = parameter.choices?.find(({ name }) => wish.name.test(name));
      return choice
        ? { role, text: choice.value, reason: why }
        : { role, text: null, reason: `it has no choice like “${wish.called}”: ${why}` };
    }
    case 'seconds':
      return { role, text: secondsText(parameter, wish.seconds), reason: `${wish.seconds} s: ${why}` };
    case 'share-of-speed':
      return speedAsked(index, parameter, plate, wish.share, why);
  }
}

const secondsText = ({ unit }: PlacedParameter, seconds: number): string =>
  unit === 'ms' ? `${seconds * 1000} ms` : `${seconds} ${unit ?? ''}`.trim();

/** A share of the plate's speed in the unit of the setting: Hz, rpm, percent. */
function speedAsked(
  index: SheetIndex,
  parameter: PlacedParameter,
  plate: Nameplate,
  share: number,
  why: string,
): Asked {
  const { role } = parameter;
  const unit = chainOf(index.sheet, parameter)?.unit ?? parameter.unit ?? '';
  const full = unit === 'Hz' ? plate.frequencyHz : unit === 'rpm' ? plate.speedRpm : unit === '%' ? 100 : null;
  if (!role) return { role: 'maximum-speed', text: null, reason: why };
  if (full === null)
    return {
      role,
      text: null,
      reason: `the plate does not say what full speed is in ${unit === '' ? 'its counts' : unit}: ${why}`,
    };
  const value = Number((full * share).toPrecision(6));
  return { role, text: `${value} ${unit}`, reason: `${share} × ${full} ${unit} = ${value} ${unit}: ${why}` };
}
