import { checkDialect } from '../dialect/check-dialect';
import { checkProfile } from './check-profile';
import { addressOf } from '../registers/address';
import { stagesOf } from '../scaling/scale';
import type { WordSpec } from '../words/spec';
import { placeOf } from '../uss/parameter';
import { indexSheet } from './index-sheet';
import type { ParameterRole } from './parameter-section';
import type { Sheet } from './sheet';
import { sheetFault as at, type SheetFault } from './sheet-fault';

/** Cross-field checks, which a JSON Schema cannot carry. An empty list means that every view can rely on the sheet. */
export function checkSheet(sheet: Sheet): readonly SheetFault[] {
  return [
    ...wordFaults(sheet),
    ...scalingFaults(sheet),
    ...parameterFaults(sheet),
    ...commandFaults(sheet),
    ...faultTableFaults(sheet),
    ...(sheet.dialect ? checkDialect(sheet.dialect) : []).map(({ path, text }) => at(`dialect.${path}`, text)),
    ...ussFaults(sheet),
    ...checkProfile(sheet),
  ];
}

/** Items whose key was seen before, with their place. */
function repeated<T>(items: readonly T[], key: (item: T) => string | number | undefined): readonly [number, T][] {
  const seen = new Set<string | number>();
  return items.flatMap((item, i): [number, T][] => {
    const value = key(item);
    if (value === undefined) return [];
    if (seen.has(value)) return [[i, item]];
    seen.add(value);
    return [];
  });
}

function wordFaults({ words }: Sheet): readonly SheetFault[] {
  if (!words) return [];
  return Object.entries(words).flatMap(([name, spec]: [string, WordSpec]) => {
    const path = `words.${name}`;
    const listed = new Set(spec.bits.map(({ bit }) => bit));
    return [
      ...spec.bits.flatMap(({ bit }, i) =>
        bit < spec.width ? [] : [at(`${path}.bits[${i}]`, `bit ${bit} does not exist in a word of ${spec.width} bits`)],
      ),
      ...repeated(spec.bits, ({ bit }) => bit).map(([i, { bit }]) =>
        at(`${path}.bits[${i}]`, `bit ${bit} is described twice`),
      ),
      ...repeated(spec.bits, ({ role }) => role).map(([i, { role }]) =>
        at(`${path}.bits[${i}].role`, `two bits have the role ${role}`),
      ),
      ...fieldFaults(path, spec),
      ...(spec.exclusive ?? []).flatMap((group, i) =>
        group
          .filter((bit) => !listed.has(bit))
          .map((bit) => at(`${path}.exclusive[${i}]`, `bit ${bit} is not described`)),
      ),
    ];
  });
}

/** Fields that lie over each other or over a bit with a meaning, that leave the word, or whose values they cannot hold. */
function fieldFaults(path: string, { fields = [], bits, width: wordWidth }: WordSpec): readonly SheetFault[] {
  const owner = new Map(bits.map(({ bit, name }) => [bit, name]));
  return fields.flatMap(({ from, width, name, values }, i) => {
    const here = `${path}.fields[${i}]`;
    const own = Array.from({ length: width }, (_, k) => from + k);
    const faults = [
      ...(from + width > wordWidth
        ? [at(here, `bits ${from} to ${from + width - 1} do not fit ${wordWidth} bits`)]
        : []),
      ...own.flatMap((bit) => {
        const other = owner.get(bit);
        return other === undefined ? [] : [at(here, `bit ${bit} of ${name} is also ${other}`)];
      }),
      ...values
        .filter(({ value }) => value >= 2 ** width)
        .map(({ value }) => at(here, `${value} does not fit ${width} bits`)),
      ...repeated(values, ({ value }) => value).map(([k, { value }]) =>
        at(`${here}.values[${k}]`, `value ${value} is listed twice`),
      ),
    ];
    for (const bit of own) owner.set(bit, name);
    return faults;
  });
}

function scalingFaults({ scalings = [] }: Sheet): readonly SheetFault[] {
  return [
    ...repeated(scalings, ({ id }) => id).map(([i, { id }]) =>
      at(`scalings[${i}].id`, `two scalings are called ${id}`),
    ),
    ...scalings.flatMap(({ chain }, i) => {
      const stages = stagesOf(chain);
      const { bits, order } = chain.word;
      return [
        ...(stages.ok ? [] : [at(`scalings[${i}].chain`, stages.error.text)]),
        ...(order !== undefined && order.length !== bits / 8
          ? [at(`scalings[${i}].chain.word.order`, `the order ${order} is not one of ${bits / 8} bytes`)]
          : []),
      ];
    }),
  ];
}

function parameterFaults({ parameters = [], addressRule, scalings = [] }: Sheet): readonly SheetFault[] {
  const chains = new Map(scalings.map(({ id, chain }) => [id, chain]));
  const addressed = parameters.map(({ number }) => (addressRule ? addressOf(addressRule, number)?.address : undefined));
  return [
    ...(parameters.length > 0 && !addressRule
      ? [at('addressRule', 'parameters are listed, but no rule gives their registers')]
      : []),
    ...repeated(parameters, ({ number }) => number).map(([i, { number }]) =>
      at(`parameters[${i}].number`, `parameter ${number} is listed twice`),
    ),
    ...repeated(parameters, ({ role }) => role).map(([i, { role }]) =>
      at(`parameters[${i}].role`, `two parameters have the role ${role}`),
    ),
    ...repeated(addressed, (address) => address).map(([i, address]) =>
      at(`parameters[${i}].number`, `its register ${address} belongs to another parameter`),
    ),
    ...parameters.flatMap((parameter, i) => {
      const path = `parameters[${i}]`;
      const { min, max, number, scale, type } = parameter;
      const [low, high] = type === 'int16' ? [-32768, 32767] : [0, 65535];
      return [
        ...(addressRule && addressed[i] === undefined
          ? [at(`${path}.number`, `the address rule makes no register of ${number}`)]
          : []),
        ...(min > max ? [at(`${path}.min`, `the lowest value ${min} is above the highest ${max}`)] : []),
        ...(min < low || max > high ? [at(path, `${min} to ${max} does not fit ${type} (${low} to ${high})`)] : []),
        ...(parameter.default < min || parameter.default > max
          ? [at(`${path}.default`, `the default ${parameter.default} is outside ${min} to ${max}`)]
          : []),
        ...(scale?.kind === 'chain' && !chains.has(scale.id)
          ? [at(`${path}.scale`, `there is no scaling ${scale.id}`)]
          : []),
        ...(scale?.kind === 'chain' && (chains.get(scale.id)?.word.bits ?? 0) > 16
          ? [at(`${path}.scale`, `scaling ${scale.id} makes 32 bits; this register holds 16`)]
          : []),
        ...(scale?.kind === 'resolution' && /^-|^0+(?:\.0*)?$/.test(scale.value)
          ? [at(`${path}.scale`, `one count cannot be ${scale.value}`)]
          : []),
      ];
    }),
  ];
}

/** Numbers that no page reaches, and values that their width cannot hold. */
function ussFaults({ uss }: Sheet): readonly SheetFault[] {
  if (!uss) return [];
  return [
    ...repeated(uss.parameters, ({ number }) => number).map(([i, { number }]) =>
      at(`uss.parameters[${i}].number`, `parameter ${number} is listed twice`),
    ),
    ...uss.parameters.flatMap((parameter, i) => {
      const path = `uss.parameters[${i}]`;
      const [low, high] = parameter.double ? [-(2 ** 31), 2 ** 32 - 1] : [-32768, 65535];
      return [
        ...(placeOf(uss, parameter.number)
          ? []
          : [at(`${path}.number`, `no page reaches parameter ${parameter.number}`)]),
        ...(parameter.min > parameter.max || parameter.min < low || parameter.max > high
          ? [
              at(
                path,
                `${parameter.min} to ${parameter.max} does not fit a ${parameter.double ? 'double word' : 'word'}`,
              ),
            ]
          : []),
        ...(parameter.double && uss.pkwWords === 3
          ? [at(path, 'a double word does not fit a channel of 3 words')]
          : []),
        ...(parameter.default < parameter.min || parameter.default > parameter.max
          ? [at(`${path}.default`, `the default ${parameter.default} is outside ${parameter.min} to ${parameter.max}`)]
          : []),
      ];
    }),
  ];
}

function commandFaults(sheet: Sheet): readonly SheetFault[] {
  const { commands, words, profile } = sheet;
  if (!commands) return [];
  const { byRole } = indexSheet(sheet);
  const has = (role: ParameterRole): boolean => byRole.has(role);
  const most = words ? 2 ** words.control.width - 1 : 0;
  const all = [
    ...commands.words.map(({ word }, i) => [`commands.words[${i}]`, word] as const),
    ...commands.stop.words.map((word, i) => [`commands.stop.words[${i}]`, word] as const),
  ];
  return [
    ...(words || profile ? [] : [at('commands', 'command words are listed, but the control word is not described')]),
    ...(has('control-word') ? [] : [at('commands.stop', 'nothing has the role control-word, so nothing can be sent')]),
    ...(has('status-word')
      ? []
      : [at('commands.stop', 'nothing has the role status-word, so standstill cannot be seen')]),
    ...(words
      ? all
          .filter(([, word]) => word > most)
          .map(([path]) => at(path, `the word does not fit ${words.control.width} bits`))
      : []),
  ];
}

const faultTableFaults = ({ faults = [] }: Sheet): readonly SheetFault[] =>
  repeated(faults, ({ code }) => code).map(([i, { code }]) => at(`faults[${i}].code`, `fault ${code} is listed twice`));
