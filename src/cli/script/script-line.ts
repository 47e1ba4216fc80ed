import * as v from 'valibot';
import { SerialSettingsSchema } from '../../core/sheet/link-section';
import { loadSheet } from '../../core/sheet/load-sheet';
import { indexSheet, type SheetIndex } from '../../core/sheet/index-sheet';
import { PLAIN_TEXT } from '../../core/sheet/plain-text';
import { Slug, whole as wholeNumber } from '../../core/schema/primitives';
import { checkTarget } from '../../core/line/target';
import { SHIPPED_TRIALS } from '../../core/trial/shipped-trials';
import { TrialSchema, type Trial } from '../../core/trial/trial';
import type { SerialSettings } from '../../core/line/settings';
import { isFloatType } from '../../core/values/type';
import { Id, read } from '../input';
import { BadLine } from '../protocol';
import { shippedSheet, SHEET_IDS } from '../sheets';

const Seconds = v.pipe(v.number(), v.minValue(0), v.maxValue(86_400));

const PROTOCOLS = ['modbus-rtu', 'modbus-ascii', 'modbus-tcp', 'uss', 'ascii', 'raw-tcp'] as const;

/** What a line of a script file says: which trial, on which drive, reached how. Docs in docs/headless.md. */
const ENTRIES = {
  ...Id,
  /** One that ships, by its name, or the trial itself as the bench exports it. */
  trial: v.union([Slug, TrialSchema]),
  /** A sheet that ships, by its name, or a sheet itself; absent on a line of plain text. */
  sheet: v.optional(v.union([Slug, v.looseObject({ format: v.number() })])),
  station: v.optional(wholeNumber(0, 255)),
  protocol: v.optional(v.picklist(PROTOCOLS)),
  /** Of the serial line, or of the one behind a device server. */
  serial: v.optional(SerialSettingsSchema),
  /** A real drive, or a device server in front of one; absent: the stand-in of the sheet. */
  tcp: v.optional(v.strictObject({ host: v.string(), port: v.number() })),
  /** How long it is tried to reach the drive, in seconds. */
  openWithinS: v.optional(Seconds, 0),
  /** How the stand-in leaves the factory where that differs, raw by number; and its chance. */
  standin: v.optional(
    v.strictObject({
      parameters: v.optional(v.record(v.string(), v.number()), {}),
      seed: v.optional(wholeNumber(0, 2 ** 32 - 1), 1),
    }),
  ),
  /** The shaft may turn: without this no trial begins in which it may. */
  mayTurn: v.optional(v.boolean(), false),
  /** Answers of a person, by the ids of the steps that ask. */
  answers: v.optional(v.record(v.string(), v.string()), {}),
  /** After so long it is ended and the shaft stopped, whatever it waits for. */
  withinS: v.optional(Seconds, 3600),
  /** Every frame is told too. */
  frames: v.optional(v.boolean(), false),
};

export interface Script {
  readonly id: unknown;
  readonly trial: Trial;
  readonly index: SheetIndex;
  readonly station: number;
  readonly protocol: (typeof PROTOCOLS)[number];
  readonly serial: SerialSettings | null;
  readonly tcp: { readonly host: string; readonly port: number } | null;
  readonly standin: { readonly parameters: Readonly<Record<string, number>>; readonly seed: number };
  readonly openWithinS: number;
  readonly mayTurn: boolean;
  readonly answers: Readonly<Record<string, string>>;
  readonly withinS: number;
  readonly frames: boolean;
}

/** A line of a script file, with everything that it leaves to the sheet filled in. Throws `BadLine`. */
export function readScript(input: unknown): Script {
  const line = read(ENTRIES, input);
  const trial = typeof line.trial === 'string' ? SHIPPED_TRIALS.find(({ id }) => id === line.trial) : line.trial;
  if (!trial)
    throw new BadLine(
      'bad-field',
      `trial: none of that name ships; there are ${SHIPPED_TRIALS.map(({ id }) => id).join(', ')}`,
    );
  const isText = line.protocol === 'raw-tcp';
  if (isText && (line.sheet !== undefined || !line.tcp))
    throw new BadLine('bad-field', 'protocol: a line of plain text is reached by tcp, and has no sheet');
  if (!isText && line.sheet === undefined) throw new BadLine('missing-field', 'sheet: which drive is it?');
  const index = line.sheet === undefined ? PLAIN_TEXT : indexOfField(line.sheet);
  checkAnswers(trial, line.answers);
  checkStandin(index, line.standin?.parameters ?? {});
  const { link } = index.sheet;
  const protocol =
    line.protocol ??
    (line.tcp && link?.protocol === 'modbus-rtu' && !line.serial ? 'modbus-tcp' : (link?.protocol ?? 'modbus-rtu'));
  const serial = line.serial ?? link?.serial ?? null;
  if (!line.tcp && protocol === 'modbus-tcp') throw new BadLine('bad-field', 'protocol: Modbus TCP needs tcp');
  if (!line.tcp && !serial) throw new BadLine('missing-field', 'serial: the sheet does not say how its line is set');
  const target = line.tcp && checkTarget(line.tcp.host, line.tcp.port);
  if (target && !target.ok) throw new BadLine('bad-field', `tcp: ${target.error}`);
  if (line.tcp && line.standin) throw new BadLine('bad-field', 'standin: a drive over TCP is no stand-in');
  return {
    id: line.id,
    trial,
    index,
    station: line.station ?? link?.station ?? 1,
    protocol,
    serial,
    tcp: target?.value ?? null,
    standin: line.standin ?? { parameters: {}, seed: 1 },
    openWithinS: line.openWithinS,
    mayTurn: line.mayTurn,
    answers: line.answers,
    withinS: line.withinS,
    frames: line.frames,
  };
}

const ASKING: ReadonlySet<Trial['steps'][number]['kind']> = new Set(['ask', 'ask-turning', 'ask-number']);

/** An answer that no step asks for is a slip: the step that it was meant for would end the trial. */
function checkAnswers({ steps }: Trial, answers: Readonly<Record<string, string>>): void {
  const asking = steps.filter(({ kind }) => ASKING.has(kind)).map(({ id }) => id);
  const stray = Object.keys(answers).find((name) => !asking.includes(name));
  if (stray !== undefined)
    throw new BadLine(
      'bad-field',
      `answers: no step ${stray} asks${asking.length > 0 ? `; there are ${asking.join(', ')}` : ''}`,
    );
}

function checkStandin({ byNumber }: SheetIndex, parameters: Readonly<Record<string, number>>): void {
  for (const [number, raw] of Object.entries(parameters)) {
    const parameter = byNumber.get(number);
    if (!parameter) throw new BadLine('bad-field', `standin: the sheet has no ${number}`);
    if (!isFloatType(parameter.type) && !Number.isInteger(raw))
      throw new BadLine('bad-field', `standin: ${number} takes a whole number, not ${raw}`);
  }
}

function indexOfField(field: string | { readonly format: number }): SheetIndex {
  if (typeof field === 'string') {
    const sheet = shippedSheet(field);
    if (!sheet) throw new BadLine('bad-field', `sheet: none of that name ships; there are ${SHEET_IDS.join(', ')}`);
    return indexSheet(sheet);
  }
  const loaded = loadSheet(field);
  if (!loaded.ok)
    throw new BadLine('bad-field', `sheet: ${loaded.error[0]?.path ?? ''} ${loaded.error[0]?.text ?? ''}`);
  return indexSheet(loaded.value);
}
