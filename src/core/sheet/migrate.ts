type Raw = Readonly<Record<string, unknown>>;

const isRaw = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * Format 0, the draft before the first release, had no revision, held the serial settings in one text ("19200 8E1"), the parameters as a
 * map and one full scale in Hz for all speeds. What it does not have stays absent; what is not of its form is handed on, for the schema
 * to name.
 */
function fromFormat0(raw: Raw): unknown {
  const { serial, station, params, fullScale, title, id, ...rest } = raw;
  return {
    ...rest,
    format: 1,
    slug: id,
    revision: 1,
    name: title,
    ...(serial === undefined
      ? {}
      : { link: { protocol: 'modbus-rtu', serial: serialFrom(serial), station, replyWithinMs: 100 } }),
    ...(params === undefined ? {} : { parameters: parametersFrom(params) }),
    ...(fullScale === undefined ? {} : { scalings: [scalingFrom(fullScale)] }),
  };
}

function serialFrom(text: unknown): unknown {
  const parts = typeof text === 'string' ? /^(\d+) ([78])([NEO])([12])$/.exec(text) : null;
  if (!parts) return text;
  const number = (i: number): number => parseInt(parts[i] ?? '', 10);
  return { rate: number(1), dataBits: number(2), parity: parts[3], stopBits: number(4) };
}

const parametersFrom = (params: unknown): unknown =>
  isRaw(params)
    ? Object.entries(params).map(([number, rest]) => (isRaw(rest) ? { number, ...rest } : { number }))
    : params;

function scalingFrom(fullScale: unknown): unknown {
  if (!isRaw(fullScale)) return fullScale;
  // Only what is a number or a text can be written down; the rest is handed on as it is.
  const text = (part: unknown): unknown => (typeof part === 'number' ? `${part}` : part);
  const step = { kind: 'full-scale', value: text(fullScale.hz), raw: text(fullScale.counts) };
  return {
    id: 'speed',
    name: 'speed',
    chain: { unit: 'Hz', steps: [step], rounding: 'down', word: { bits: 16, signed: true } },
  };
}

/**
 * Format 1 had one list for registers, one for USS and one for process data; format 2 has one dictionary in which each entry says how it is
 * reached. Two words that stood for one position become one value of 32 bits.
 */
function fromFormat1(raw: Raw): unknown {
  const { uss, parameters, ...rest } = raw;
  const { parameters: channel, process, ...rule } = isRaw(uss) ? uss : {};
  const words = isRaw(process) ? process : {};
  // What is no list is handed on as it is, for the schema to name.
  const lists = [parameters, channel, words.out, words.in].filter((list) => list !== undefined);
  if (!lists.every(Array.isArray)) return { ...rest, format: 2, ...(uss === undefined ? {} : { uss }), parameters };
  const entries = (list: unknown): readonly unknown[] => (Array.isArray(list) ? (list as unknown[]) : []);
  const all = [
    ...joined(entries(parameters)),
    ...entries(words.out).map((item, i) => processEntry(item, 'out', i)),
    ...entries(words.in).map((item, i) => processEntry(item, 'in', i)),
    ...entries(channel).map(channelEntry),
  ];
  return {
    ...rest,
    format: 2,
    ...(uss === undefined ? {} : { uss: isRaw(uss) ? rule : uss }),
    ...(parameters === undefined && all.length === 0 ? {} : { parameters: all }),
  };
}

const processEntry = (item: unknown, direction: 'out' | 'in', word: number): unknown =>
  isRaw(item)
    ? {
        number: `PZD ${word + 1} ${direction}`,
        ...item,
        at: [{ kind: 'process', direction, word }],
        default: 0,
        write: direction === 'out' ? 'always' : 'never',
      }
    : item;

function channelEntry(item: unknown): unknown {
  if (!isRaw(item)) return item;
  const { number, double, elements, text, ...entry } = item;
  const signed = typeof item.min === 'number' && item.min < 0;
  const type = `${signed ? '' : 'u'}int${double === true ? 32 : 16}`;
  return {
    number: typeof number === 'number' ? `${number}` : number,
    ...entry,
    at: [{ kind: 'uss', number, ...(elements === undefined ? {} : { elements }) }],
    type,
    ...(text === undefined ? {} : { label: text }),
  };
}

const without = (raw: Raw, ...keys: readonly string[]): Raw =>
  Object.fromEntries(Object.entries(raw).filter(([key]) => !keys.includes(key)));

const HALF = /^(target|position)-(high|low)$/;
const HALVES = { target: 'target-position', position: 'actual-position' } as const;

/** Two halves of a position with neighbouring numbers as one entry; halves that do not stand together keep no role. */
function joined(entries: readonly unknown[]): readonly unknown[] {
  const roleOf = (entry: unknown): string => (isRaw(entry) && typeof entry.role === 'string' ? entry.role : '');
  return entries.flatMap((entry, i) => {
    const [, kind, half] = HALF.exec(roleOf(entry)) ?? [];
    if (!isRaw(entry) || kind === undefined) return [entry];
    const other = `${kind}-${half === 'high' ? 'low' : 'high'}`;
    if (i > 0 && roleOf(entries[i - 1]) === other) return [];
    const plain = without(entry, 'role');
    if (roleOf(entries[i + 1]) !== other) return [plain];
    const whole = without(plain, 'max', 'min', 'default');
    const next = entries[i + 1];
    const byDefault = [entry.default, isRaw(next) ? next.default : undefined];
    const [low, high] = half === 'low' ? byDefault : [byDefault[1], byDefault[0]];
    return [
      {
        ...whole,
        name:
          typeof entry.name === 'string'
            ? entry.name.replace(/,? ?\(?(?:high|low)(?: word| half)?\)?$/i, '')
            : entry.name,
        role: HALVES[kind as keyof typeof HALVES],
        type: 'int32',
        ...(half === 'low' ? { order: 'CDAB' } : {}),
        min: -(2 ** 31),
        max: 2 ** 31 - 1,
        ...(typeof high === 'number' && typeof low === 'number' ? { default: (high * 0x1_0000 + low) | 0 } : {}),
      },
    ];
  });
}

const MIGRATIONS: Readonly<Record<number, (raw: Raw) => unknown>> = { 0: fromFormat0, 1: fromFormat1 };

/** Brings a sheet of any older format to the present one, a step at a time; anything else is returned as it came. */
export function migrateSheet(value: unknown): unknown {
  let current = value;
  while (isRaw(current) && typeof current.format === 'number') {
    const step = MIGRATIONS[current.format];
    if (!step) return current;
    current = step(current);
  }
  return current;
}
