import { checkDialect } from '../dialect/check-dialect';
import { checkProfile } from './check-profile';
import { addressOf } from '../registers/address';
import { compare, parseRational, ratio, type Rational } from '../scaling/rational';
import type { ScalingChain } from '../scaling/chain';
import { stagesOf, toRaw } from '../scaling/scale';
import type { WordSpec } from '../words/spec';
import { placeOf } from '../uss/parameter';
import { wordFieldFaults } from '../values/word-field';
import { isDateType, isNumberType, rangeOfType, wordsOfType } from '../values/type';
import { cellsOf, indexSheet, placeText } from './index-sheet';
import type { Cell, Place } from './place';
import type { ParameterRole } from './parameter-section';
import type { Sheet } from './sheet';
import { sheetFault as at, type SheetFault } from './sheet-fault';

/** Checks across the fields of a sheet, which a JSON Schema cannot carry; whoever must not hold a page for all of them does one after the other. */
export const SHEET_CHECKS: readonly ((sheet: Sheet) => readonly SheetFault[])[] = [
  wordFaults,
  scalingFaults,
  nameFaults,
  overlaps,
  parameterFaults,
  commandFaults,
  faultTableFaults,
  dialectFaults,
  axisFaults,
  checkProfile,
];

/** All checks across fields. An empty list means that every view can rely on the sheet. */
export const checkSheet = (sheet: Sheet): readonly SheetFault[] => SHEET_CHECKS.flatMap((check) => check(sheet));

function dialectFaults({ dialect }: Sheet): readonly SheetFault[] {
  return dialect ? checkDialect(dialect).map(({ path, text }) => at(`dialect.${path}`, text)) : [];
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

/** Numbers and roles that two parameters claim. */
function nameFaults({ parameters = [] }: Sheet): readonly SheetFault[] {
  return [
    ...repeated(parameters, ({ number }) => number).map(([i, { number }]) =>
      at(`parameters[${i}].number`, `parameter ${number} is listed twice`),
    ),
    ...repeated(parameters, ({ role }) => role).map(([i, { role }]) =>
      at(`parameters[${i}].role`, `two parameters have the role ${role}`),
    ),
  ];
}

function parameterFaults(sheet: Sheet): readonly SheetFault[] {
  const { parameters = [], addressRule, scalings = [], uss } = sheet;
  const chains = new Map(scalings.map(({ id, chain }) => [id, chain]));
  const commands = new Set(sheet.dialect?.commands.map(({ id }) => id));
  const numbers = new Set(parameters.map(({ number }) => number));
  const places = parameters.map(placesIn(addressRule));
  return parameters.flatMap((parameter, i) => {
    const path = `parameters[${i}]`;
    const { min, max, number, scale, type, order, at: own } = parameter;
    const range = limitsOfType(type);
    const wide = 16 * wordsOfType(type, parameter.size);
    const chain = scale?.kind === 'chain' ? chains.get(scale.id) : undefined;
    const outside = [min, max].some((limit) => limit !== undefined && range && (limit < range[0] || limit > range[1]));
    return [
      ...(addressRule && places[i]?.length === 0
        ? [at(`${path}.number`, `the address rule makes no register of ${number}`)]
        : []),
      ...(own ?? []).flatMap((place, n) =>
        placeFaults(place, uss, commands, wide).map((text) => at(`${path}.at[${n}]`, text)),
      ),
      ...(min !== undefined && max !== undefined && min > max
        ? [at(`${path}.min`, `the lowest value ${min} is above the highest ${max}`)]
        : []),
      ...(range && outside
        ? [at(path, `${min ?? range[0]} to ${max ?? range[1]} does not fit ${type} (${range[0]} to ${range[1]})`)]
        : []),
      ...(parameter.default !== undefined &&
      (parameter.default < (min ?? -Infinity) || parameter.default > (max ?? Infinity))
        ? [
            at(
              `${path}.default`,
              `the default ${parameter.default} is outside ${min ?? range?.[0] ?? ''} to ${max ?? range?.[1] ?? ''}`,
            ),
          ]
        : []),
      ...(order !== undefined && order.length * 8 !== (isNumberType(type) || isDateType(type) ? wide : 16)
        ? [
            at(
              `${path}.order`,
              `the order ${order} is not one of ${isNumberType(type) || isDateType(type) ? wide / 8 : 2} bytes`,
            ),
          ]
        : []),
      ...(scale?.kind === 'chain' && !chain ? [at(`${path}.scale`, `there is no scaling ${scale.id}`)] : []),
      ...(scale?.kind === 'chain' && chain && chain.word.bits > wide
        ? [
            at(
              `${path}.scale`,
              `scaling ${scale.id} makes ${chain.word.bits} bits; this ${places[i]?.[0]?.kind === 'register' ? 'register' : 'place'} holds ${wide}`,
            ),
          ]
        : []),
      ...(scale?.kind === 'by' && !numbers.has(scale.parameter)
        ? [at(`${path}.scale`, `there is no entry ${scale.parameter} that says what one count is`)]
        : []),
      ...wordFieldFaults(parameter.fields ?? [], wide).map(({ at: n, text }) => at(`${path}.fields[${n}]`, text)),
      ...(scale?.kind === 'resolution' && /^-|^0+(?:\.0*)?$/.test(scale.value)
        ? [at(`${path}.scale`, `one count cannot be ${scale.value}`)]
        : []),
    ];
  });
}

function axisFaults({ axis, scalings = [], parameters = [] }: Sheet): readonly SheetFault[] {
  if (!axis) return [];
  const { chain, travel, round, storedMoves: stored } = axis;
  const listed = new Set(parameters.map(({ number }) => number));
  const [from, to] = travel ? [parseRational(travel.from), parseRational(travel.to)] : [];
  return [
    ...(scalings.some(({ id }) => id === chain) ? [] : [at('axis.chain', `there is no scaling ${chain}`)]),
    ...(from?.ok && to?.ok && compare(from.value, to.value) >= 0
      ? [at('axis.travel', `the travel begins at ${travel?.from ?? ''}, which is not below its end`)]
      : []),
    ...(round && !isWholeTurn(round.turn, scalings.find(({ id }) => id === chain)?.chain)
      ? [at('axis.round', `one turn, ${round.turn}, is more than 0 and a whole number of counts that begin at 0`)]
      : []),
    ...(round && travel ? [at('axis.travel', 'an axis that goes round has no ends')] : []),
    ...(round && stored ? [at('axis.storedMoves', 'stored moves of an axis that goes round are not worked out')] : []),
    ...(stored && !parameters.some(({ role }) => role === 'stored-move')
      ? [at('axis.storedMoves', 'no entry has the role stored-move: nobody could say which one is started')]
      : []),
    ...storedNumbers(axis).flatMap(([place, number]) =>
      listed.has(number) ? [] : [at(`axis.storedMoves.${place}`, `there is no entry ${number}`)],
    ),
  ];
}

/** Whether one turn of an axis that goes round comes to a whole number of counts. */
function isWholeTurn(text: string, chain: ScalingChain | undefined): boolean {
  const turn = parseRational(text);
  const counts = (value: Rational) => (chain ? toRaw(chain, value) : null);
  const [whole, none] = [turn.ok ? counts(turn.value) : null, counts(ratio(0n))];
  // A counter that begins elsewhere than at 0 comes round elsewhere.
  if (!whole?.ok || !none?.ok || none.value.exact.num !== 0n) return false;
  return whole.value.exact.den === 1n && whole.value.exact.num > 0n;
}

/** The entries that hold the stored moves of a drive, and where the sheet says so. */
function storedNumbers({ storedMoves }: NonNullable<Sheet['axis']>): readonly (readonly [string, string])[] {
  if (!storedMoves) return [];
  const { startedBy, moves } = storedMoves;
  return [
    ...(startedBy === undefined ? [] : [['startedBy.number', startedBy.number] as const]),
    ...moves.flatMap((move, i) => Object.entries(move).map(([key, number]) => [`moves[${i}].${key}`, number] as const)),
  ];
}

type Listed = NonNullable<Sheet['parameters']>[number];

/** All ways in which a parameter is reached: its own, or the one that the rule makes of its number. */
const placesIn =
  (rule: Sheet['addressRule']) =>
  ({ at: own, number }: Listed): readonly Place[] => {
    const worked = own || !rule ? null : addressOf(rule, number);
    return (
      own ?? (worked ? [{ kind: 'register', table: rule?.table ?? 'holding-register', address: worked.address }] : [])
    );
  };

/** Registers that two parameters claim, or two ways of one. */
function overlaps({ parameters = [], addressRule }: Sheet): readonly SheetFault[] {
  const owner = new Map<Cell, number>();
  const placesOf = placesIn(addressRule);
  return parameters.flatMap((parameter, i) => {
    const { type, size } = parameter;
    const own = new Set<Cell>();
    return placesOf(parameter).flatMap((place, way): SheetFault[] => {
      const cells = cellsOf(place, type, size);
      const again = cells.find((cell) => own.has(cell));
      for (const cell of cells) own.add(cell);
      if (again !== undefined)
        return [at(`parameters[${i}].at[${way}]`, `two of its ways lie over each other, at ${again}`)];
      const taken = cells.find((cell) => owner.has(cell) && owner.get(cell) !== i);
      for (const cell of cells) owner.set(cell, owner.get(cell) ?? i);
      if (taken === undefined) return [];
      const what =
        place.kind === 'register' ? `its register ${taken.replace(/^.* /, '')}` : `its place, ${placeText(place)},`;
      return [at(`parameters[${i}].number`, `${what} belongs to another parameter`)];
    });
  });
}

function limitsOfType(type: Listed['type']): readonly [number, number] | null {
  if (type === 'bcd16' || type === 'bcd32') return [0, type === 'bcd16' ? 9_999 : 99_999_999];
  const range = rangeOfType(type);
  return range && [Number(range.min), Number(range.max)];
}

/** What a place needs of the sheet that is not there. */
function placeFaults(place: Place, uss: Sheet['uss'], commands: ReadonlySet<string>, bits: number): readonly string[] {
  switch (place.kind) {
    case 'register':
      return place.address + bits / 16 > 0x10000 ? ['it runs past register 65535'] : [];
    case 'uss':
      if (!uss) return ['the sheet says nothing of USS'];
      return [
        ...(placeOf(uss, place.number) ? [] : [`no page reaches parameter ${place.number}`]),
        ...((place.element ?? 0) > (place.elements ?? 1) - 1
          ? [`element ${place.element ?? 0} of ${place.elements ?? 1}: they are counted from 0`]
          : []),
        ...(bits > 16 && uss.pkwWords === 3 ? ['a double word does not fit a channel of 3 words'] : []),
        ...(bits > 32 ? ['the parameter channel carries 32 bits at most'] : []),
      ];
    case 'process':
      return uss && place.word + bits / 16 > uss.pzdWords ? [`the process data have ${uss.pzdWords} words`] : [];
    case 'command':
      return commands.has(place.command) ? [] : [`the dialect has no command ${place.command}`];
  }
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

function faultTableFaults({ faults = [] }: Sheet): readonly SheetFault[] {
  return repeated(faults, ({ code }) => code).map(([i, { code }]) =>
    at(`faults[${i}].code`, `fault ${code} is listed twice`),
  );
}
