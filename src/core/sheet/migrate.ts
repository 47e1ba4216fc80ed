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

const MIGRATIONS: Readonly<Record<number, (raw: Raw) => unknown>> = { 0: fromFormat0 };

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
