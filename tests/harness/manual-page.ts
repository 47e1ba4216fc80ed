import { pick, seededRandom, type Random } from '../../src/core/random/random';
import type { DescribedParameter } from '../../src/core/values/described';

/** A page of a made-up manual in one of many layouts, and what it says. Names, numbers and texts are invented. */
export interface ManualPage {
  readonly text: string;
  readonly truth: readonly DescribedParameter[];
  /** Rows that are spoilt on purpose: no parameter may come of them. */
  readonly spoilt: number;
  readonly layout: string;
  /** The same as cells: sentences above, the heading, the rows. */
  readonly above: readonly string[];
  readonly grid: readonly (readonly string[])[];
}

const one = <T>(random: Random, list: readonly T[]): T => list[pick(random, list.length)] as T;

const LANGUAGES = {
  en: {
    number: ['No.', 'Parameter no.', 'Code'],
    address: ['Register', 'Address', 'Modbus address', 'Reg.'],
    name: ['Name', 'Description', 'Parameter name'],
    type: ['Type', 'Data type', 'Format'],
    range: ['Range', 'Setting range', 'Values'],
    min: ['Min', 'Minimum', 'Min.'],
    max: ['Max', 'Maximum', 'Max.'],
    unit: ['Unit', 'Units'],
    default: ['Default', 'Factory setting', 'Def.'],
    scale: ['Scale', 'Scaling', 'Resolution'],
    access: ['Access', 'R/W', 'Acc.'],
    when: ['Change', 'Write when', 'Changeable'],
    to: ['to', '...', '–', '…'],
    rw: ['R/W', 'RW', 'read/write'],
    ro: ['R', 'RO', 'read only'],
    standstill: ['stop only', 'at standstill only', 'Stop'],
    always: ['always', 'any time', 'Run'],
    decimal: '.',
  },
  de: {
    number: ['Nr.', 'Parameter-Nr.', 'Nummer'],
    address: ['Adresse', 'Registeradresse', 'Register'],
    name: ['Bezeichnung', 'Name', 'Beschreibung'],
    type: ['Typ', 'Datentyp', 'Format'],
    range: ['Wertebereich', 'Einstellbereich', 'Bereich'],
    min: ['Min.', 'Minimum'],
    max: ['Max.', 'Maximum'],
    unit: ['Einheit', 'Einh.'],
    default: ['Werkseinstellung', 'Vorgabe', 'Werk'],
    scale: ['Skalierung', 'Auflösung'],
    access: ['Zugriff'],
    when: ['Änderbar'],
    to: ['bis', '…', '–'],
    rw: ['L/S', 'R/W', 'lesen/schreiben'],
    ro: ['L', 'R', 'nur lesen'],
    standstill: ['im Stillstand', 'nur im Stillstand'],
    always: ['immer', 'jederzeit'],
    decimal: ',',
  },
  fr: {
    number: ['N°', 'Code', 'Numéro'],
    address: ['Adresse', 'Registre'],
    name: ['Désignation', 'Libellé', 'Nom'],
    type: ['Type', 'Format'],
    range: ['Plage', 'Plage de réglage'],
    min: ['Min.', 'Minimum'],
    max: ['Max.', 'Maximum'],
    unit: ['Unité'],
    default: ['Réglage usine', 'Défaut'],
    scale: ['Facteur', 'Résolution'],
    access: ['Accès'],
    when: ['Modification'],
    to: ['à', '…'],
    rw: ['L/E', 'R/W', 'lecture/écriture'],
    ro: ['L', 'R', 'lecture seule'],
    standstill: ["à l'arrêt", 'Arrêt'],
    always: ['toujours', 'en marche'],
    decimal: ',',
  },
} as const;
type Language = keyof typeof LANGUAGES;

const NAMES = [
  'Ramp up time',
  'Ramp down time',
  'Lowest speed',
  'Highest speed',
  'Jog speed',
  'Holding torque',
  'Brake delay',
  'Skip frequency',
  'Rated voltage',
  'Rated current',
  'Window width',
  'Search speed',
  'Fan start level',
  'Filter time',
  'Torque limit forward',
  'Standby delay',
  'Output current',
  'Link voltage',
  'Heat sink temperature',
  'Load factor',
  'Position now',
  'Energy used',
  'Hours under power',
  'Speed seen',
];
const UNITS = ['s', 'Hz', 'A', 'V', '%', 'rpm', '°C', 'Nm', 'ms', 'kW', 'mm'];
const CHOICES = [
  ['off', 'on'],
  ['keypad', 'terminals', 'network'],
  ['coast', 'ramp', 'brake', 'hold'],
  ['forward', 'reverse'],
];
const BITS = ['ready', 'turning', 'at speed', 'fault', 'warning', 'remote'];

const printed = (value: number, decimals: number, mark: string, thousands: string): string => {
  const [whole = '', fraction] = Math.abs(value).toFixed(decimals).split('.');
  const grouped = thousands === '' ? whole : whole.replace(/\B(?=(\d{3})+$)/g, thousands);
  return `${value < 0 ? '−' : ''}${grouped}${fraction === undefined ? '' : `${mark}${fraction}`}`;
};
const decimal = (value: number, decimals: number): string => String(Number(value.toFixed(decimals)));

type Column =
  'number' | 'address' | 'name' | 'type' | 'range' | 'min' | 'max' | 'unit' | 'default' | 'scale' | 'access' | 'when';

/** One page from a seed. */
export function manualPage(seed: number): ManualPage {
  const random = seededRandom(seed);
  const language = one<Language>(random, ['en', 'en', 'de', 'fr']);
  const words = LANGUAGES[language];
  const parting = one(random, ['tab', 'aligned', 'bar', 'semicolon', 'comma'] as const);
  const keys = one(random, ['reference', 'hex', 'plain', 'from-one', 'group'] as const);
  const isSplit = random() < 0.4;
  const unitIn = one(random, ['column', 'range'] as const);
  const mark = words.decimal;
  const thousands = random() < 0.2 ? (mark === ',' ? '.' : parting === 'comma' ? '' : ',') : '';
  const hasType = random() < 0.7;
  const hasScale = random() < 0.6;
  const hasWhen = random() < 0.5;
  const scaleStyle = one(random, ['number', 'equation', 'times'] as const);
  const to = one(random, words.to);
  const separator = one(random, [', ', '; ', ' / ']);
  const columns: Column[] = [
    keys === 'group' ? 'number' : 'address',
    'name',
    ...(hasType ? (['type'] as const) : []),
    ...(isSplit ? (['min', 'max'] as const) : (['range'] as const)),
    ...(unitIn === 'column' || isSplit ? (['unit'] as const) : []),
    'default',
    ...(hasScale ? (['scale'] as const) : []),
    'access',
    ...(hasWhen ? (['when'] as const) : []),
  ];
  const heading = Object.fromEntries(columns.map((column) => [column, one(random, words[column])])) as Record<
    Column,
    string
  >;
  const access = { 'read-write': one(random, words.rw), read: one(random, words.ro) } as const;
  const when = { standstill: one(random, words.standstill), always: one(random, words.always) } as const;
  const truth: DescribedParameter[] = [];
  const rows: string[][] = [];
  const before: string[] = [];
  const base = keys === 'reference' ? 100 + pick(random, 800) : 100 + pick(random, 20_000);
  if (keys === 'from-one') before.push('Register numbers count from 1.');
  if (keys === 'group') before.push('Address on the wire = group × 100 + index');
  const names = [...NAMES].sort(() => random() - 0.5);
  const count = 6 + pick(random, 12);
  let spoilt = 0;
  for (let i = 0; i < count; i++) {
    const kind = one(random, ['number', 'number', 'number', 'choice', 'word'] as const);
    const decimals = pick(random, 3);
    const wide = hasType && random() < 0.2;
    const low = one(random, [0, 0, 1, -50]);
    const high = low + 1 + pick(random, wide ? 90_000 : 200);
    const byDefault = low + pick(random, high - low);
    const unit = kind === 'number' ? one(random, UNITS) : null;
    const group = 1 + Math.floor(i / 5);
    const address = keys === 'group' ? group * 100 + (i % 5) + 1 : base + 3 * i;
    const key = {
      reference: `${40001 + address}`,
      hex: `0x${address.toString(16).toUpperCase().padStart(4, '0')}`,
      plain: `${address}`,
      'from-one': `${address + 1}`,
      group: `${group}.${String((i % 5) + 1).padStart(2, '0')}`,
    }[keys];
    const isRead = kind === 'word' || random() < 0.3;
    const choices = kind === 'choice' ? one(random, CHOICES) : [];
    const bits = kind === 'word' && !isSplit ? BITS.slice(0, 2 + pick(random, 4)) : [];
    const type = hasType ? (kind === 'number' ? (wide ? 'int32' : low < 0 ? 'int16' : 'uint16') : 'uint16') : null;
    const hasLimits = kind === 'number';
    const isStandstill = random() < 0.4;
    const shown = (value: number): string => printed(value, decimals, mark, thousands);
    const scaleText = {
      number: shown(10 ** -decimals),
      equation: `1 = ${shown(10 ** -decimals)} ${unit ?? ''}`.trim(),
      times: `x${10 ** decimals}`,
    }[scaleStyle];
    const resolution = /auf|resol|résol/i.test(heading.scale ?? '');
    const scaled = hasScale && kind === 'number' && !(resolution && scaleStyle === 'times');
    const cells: Record<Column, string> = {
      number: key,
      address: key,
      name: `${names[i % names.length] ?? ''}${i >= names.length ? ' two' : ''}`,
      type: {
        int16: one(random, ['INT16', 'S16', 'INT']),
        uint16: one(random, ['UINT16', 'U16', 'WORD']),
        int32: one(random, ['INT32', 'DINT', 'S32']),
      }[type ?? 'uint16'],
      range: hasLimits
        ? `${shown(low)} ${to} ${shown(high)}${unitIn === 'range' && unit ? ` ${unit}` : ''}`
        : choices.length > 0
          ? choices.map((text, n) => `${n}${separator === ' / ' ? ' = ' : ': '}${text}`).join(separator)
          : bits.map((text, n) => `Bit ${n}: ${text}`).join(', '),
      min: hasLimits ? shown(low) : '',
      max: hasLimits ? shown(high) : '',
      unit: unit ?? '-',
      default: hasLimits ? shown(byDefault) : kind === 'choice' ? '0' : '',
      scale: scaled ? scaleText : '',
      access: access[isRead ? 'read' : 'read-write'],
      when: isRead ? '' : when[isStandstill ? 'standstill' : 'always'],
    };
    const showsChoices = choices.length > 0 && !isSplit;
    if (parting === 'comma' && /[",]/.test(Object.values(cells).join('')))
      for (const column of columns) cells[column] = `"${cells[column]}"`;
    if (parting === 'semicolon')
      for (const column of columns) if (cells[column].includes(';')) cells[column] = `"${cells[column]}"`;
    if (random() < 0.04) {
      spoilt++;
      rows.push(columns.map((column, n) => (n === 0 ? 'see below' : cells[column])));
      continue;
    }
    rows.push(columns.map((column) => cells[column]));
    truth.push({
      key,
      address,
      table: keys === 'reference' ? 'holding-register' : null,
      name: `${names[i % names.length] ?? ''}${i >= names.length ? ' two' : ''}`,
      type,
      bits: type === null ? null : wide && kind === 'number' ? 32 : 16,
      unit: columns.includes('unit') || hasLimits ? unit : null,
      scale: scaled ? (decimals === 0 ? '1' : `1/${10 ** decimals}`) : null,
      min: hasLimits ? decimal(low, decimals) : null,
      max: hasLimits ? decimal(high, decimals) : null,
      default: hasLimits ? decimal(byDefault, decimals) : kind === 'choice' ? '0' : null,
      access: isRead ? 'read' : 'read-write',
      when: hasWhen && !isRead ? (isStandstill ? 'standstill' : 'always') : null,
      choices: showsChoices ? choices.map((text, value) => ({ value, text })) : [],
      bitNames: bits.map((text, bit) => ({ bit, text })),
    });
  }
  const head = columns.map((column) => heading[column]);
  const breakAt = random() < 0.5 ? Math.floor(rows.length / 2) : -1;
  const footer = (page: number): string[] => [`Sheet of the mill drive, edition 3                       ${page}`];
  return {
    text: [...before, ...layOut(head, rows, parting, breakAt, footer)].join('\n'),
    truth,
    spoilt,
    above: before,
    grid: [head, ...rows.map((row) => row.map((cell) => cell.replace(/^"(.*)"$/, '$1')))],
    layout: `${seed} ${language} ${parting} ${keys} ${isSplit ? 'split' : 'range'} ${scaleStyle}`,
  };
}

function layOut(
  head: string[],
  rows: string[][],
  parting: string,
  breakAt: number,
  footer: (page: number) => string[],
): string[] {
  const all = [head, ...rows];
  const widths = head.map((_, i) => Math.max(...all.map((row) => row[i]?.length ?? 0)) + 2);
  const line = (row: string[]): string =>
    ({
      tab: row.join('\t'),
      semicolon: row.join(';'),
      comma: row.join(','),
      bar: `| ${row.join(' | ')} |`,
      aligned: row
        .map((cell, i) => cell.padEnd(widths[i] ?? 0))
        .join('')
        .trimEnd(),
    })[parting] ?? '';
  const lines = rows.map(line);
  const isText = parting === 'aligned' || parting === 'tab';
  if (breakAt > 0 && isText) lines.splice(breakAt, 0, ...footer(41), line(head));
  return [line(head), ...lines, ...(breakAt > 0 && isText ? footer(42) : [])];
}
