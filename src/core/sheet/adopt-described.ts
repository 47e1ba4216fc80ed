import * as v from 'valibot';
import { asNumber } from '../as-number';
import { divide, parseRational, type Rational } from '../scaling/rational';
import type { ModbusTable } from '../registers/tables';
import type { DescribedParameter } from '../values/described';
import { isFloatType, isNumberType, wordsOfType, type ParameterType } from '../values/type';
import { NamedValueSchema } from '../values/word-field-schema';
import type { Parameter } from './parameter-section';
import type { Place } from './place';
import { proposedRole } from './propose-role';
import { roleOfObject } from './standard-objects';

/** How keys that are no address of a named table are reached. */
export type Reach =
  { readonly kind: 'table'; readonly table: ModbusTable } | { readonly kind: 'uss' } | { readonly kind: 'rule' };

/** An entry of a sheet as it would be taken, without where it is from, and what was assumed for it. */
export interface Adopted {
  readonly parameter: Parameter;
  /** What the table does not say and the entry needs, or cannot hold. */
  readonly assumed: readonly string[];
}

const LONGEST_NUMBER = 24;

/** A key as the number of an entry: what cannot stand there becomes a point. */
export const numberOf = (key: string): string =>
  key
    .replace(/[^0-9A-Za-z.:#_ -]+/g, '.')
    .replace(/^[^0-9A-Za-z]+/, '')
    .slice(0, LONGEST_NUMBER) || '0';

function typeOf({ type, bits, min, choices }: DescribedParameter): {
  readonly type: ParameterType;
  readonly assumed: string;
} {
  if (type) return { type, assumed: '' };
  const sign = min?.startsWith('-') || choices.some(({ value }) => value < 0) ? '' : 'u';
  const size = bits === 32 || bits === 64 || bits === 8 ? bits : 16;
  return { type: `${sign}int${size}`, assumed: `its type is not said: taken as ${sign}int${size}` };
}

function placeOf({ key, address, table }: DescribedParameter, reach: Reach): Place | null {
  if (reach.kind === 'uss') return /^\d{1,4}$/.test(key) ? { kind: 'uss', number: Number(key) } : null;
  if (address === null) return null;
  const where = table ?? (reach.kind === 'table' ? reach.table : null);
  return where ? { kind: 'register', table: where, address } : null;
}

/** Raw numbers of limits that are printed in the unit; null where they are no counts. */
function rawOf(text: string | null, scale: Rational | null): number | null {
  const value = text === null ? null : parseRational(text);
  if (!value?.ok) return null;
  const raw = scale ? divide(value.value, scale) : value.value;
  const number = asNumber(raw);
  return Number.isSafeInteger(number) || raw.den !== 1n ? number : null;
}

const HIGH_FIRST = { whole: false, float: false };

/** The order of bytes that a text says for values of several registers. */
function orderOf(
  type: ParameterType,
  lowFirst: { readonly whole: boolean; readonly float: boolean },
): Parameter['order'] {
  const words = wordsOfType(type);
  const isLow = isFloatType(type) ? lowFirst.float : lowFirst.whole;
  return !isLow || !isNumberType(type) ? undefined : words === 2 ? 'CDAB' : words === 4 ? 'GHEFCDAB' : undefined;
}

/**
 * A parameter of a pasted table or a description as an entry of a sheet. Limits without a scale are taken only where they are whole numbers; what does
 * not fit is put into the note, so that nothing that was printed is lost.
 */
export function adoptDescribed(
  described: DescribedParameter,
  reach: Reach,
  lowFirst: { readonly whole: boolean; readonly float: boolean } = HIGH_FIRST,
): Adopted {
  const { key, name, unit, scale, access, when, choices, bitNames } = described;
  const { type, assumed } = typeOf(described);
  const place = placeOf(described, reach);
  const fraction = scale === null ? null : parseRational(scale);
  const step = fraction?.ok && !isFloatType(type) ? fraction.value : null;
  const limits = {
    min: rawOf(described.min, step),
    max: rawOf(described.max, step),
    default: rawOf(described.default, step),
  };
  const whole =
    isFloatType(type) || Object.values(limits).every((limit) => limit === null || Number.isSafeInteger(limit));
  const printed = [described.min, described.max, described.default].some((text) => text !== null);
  const standard = roleOfObject(key);
  const role = standard ?? proposedRole(name);
  const isText = type === 'text' || type === 'bytes';
  const order = orderOf(type, lowFirst);
  const size = isText ? Math.max(1, Math.ceil((described.bits ?? 16) / 16)) : undefined;
  const said = (limit: number | null): boolean => whole && limit !== null && !isText;
  const note =
    printed && !whole
      ? `as printed: ${described.min ?? '?'} to ${described.max ?? '?'}${unit ? ` ${unit}` : ''}, default ${described.default ?? '?'}`
      : '';
  const parameter: Parameter = {
    number: numberOf(key),
    name: name === '' ? numberOf(key) : name.slice(0, 400),
    ...(role ? { role } : {}),
    ...(place ? { at: [place] } : {}),
    ...(unit ? { unit } : {}),
    type,
    ...(order ? { order } : {}),
    ...(size === undefined ? {} : { size: Math.min(125, size) }),
    ...(step && scale !== null ? { scale: { kind: 'resolution' as const, value: scale } } : {}),
    ...(choices.length > 0
      ? {
          choices: choices
            .map(({ value, text }) => ({ value, name: text.slice(0, 400) }))
            .filter((choice) => v.is(NamedValueSchema, choice)),
        }
      : {}),
    ...(bitNames.length > 0 ? { bitNames: bitNames.map(({ bit, text }) => ({ bit, name: text.slice(0, 400) })) } : {}),
    ...(said(limits.min) ? { min: limits.min ?? 0 } : {}),
    ...(said(limits.max) ? { max: limits.max ?? 0 } : {}),
    ...(said(limits.default) ? { default: limits.default ?? 0 } : {}),
    ...(access === 'read'
      ? { write: 'never' as const }
      : when
        ? { write: when }
        : access
          ? { write: 'always' as const }
          : {}),
    ...(note === '' ? {} : { note }),
  };
  return {
    parameter,
    assumed: [
      ...(assumed === '' ? [] : [assumed]),
      ...(role
        ? [
            `${standard ? 'by the standard' : 'by its name'} it is the ${role.replaceAll('-', ' ')}${standard ? '' : ': look at it'}`,
          ]
        : []),
      ...(place || reach.kind === 'rule' ? [] : ['how it is reached over this link is not said']),
      ...(note === '' ? [] : ['its limits are no whole counts: they stand in the note']),
    ],
  };
}

/** Entries taken into a list: one with a number that is there already replaces it only where the user said so, and keeps its place. */
export function takenInto(
  present: readonly Parameter[],
  fresh: readonly Parameter[],
  replaces: boolean,
): {
  readonly parameters: readonly Parameter[];
  readonly added: number;
  readonly replaced: number;
  readonly left: number;
} {
  const byNumber = new Map(present.map((parameter, i) => [parameter.number, i]));
  // A role is given once: what is there keeps it.
  const roles = new Set(present.flatMap(({ role }) => role ?? []));
  const parameters = [...present];
  let [added, replaced, left] = [0, 0, 0];
  for (const parameter of fresh) {
    const at = byNumber.get(parameter.number);
    if (at !== undefined && !replaces) {
      left++;
      continue;
    }
    const kept = at === undefined ? undefined : parameters[at];
    const { role, ...plain } = parameter;
    const own = kept?.role ?? (role && !roles.has(role) ? role : undefined);
    if (own) roles.add(own);
    const entry: Parameter = { ...plain, ...(own ? { role: own } : {}) };
    if (at === undefined) {
      byNumber.set(parameter.number, parameters.length);
      parameters.push(entry);
      added++;
    } else {
      parameters[at] = entry;
      replaced++;
    }
  }
  return { parameters, added, replaced, left };
}
