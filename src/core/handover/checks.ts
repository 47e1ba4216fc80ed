import { hexNumber } from '../bytes/hex';
import { axisOf } from '../motion/axis';
import { disabledTexts, whyNotPlanned } from '../sets/plan';
import { wordsOfSaid } from '../sets/said';
import { canStop } from '../drive/can-stop';
import { numberOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { patternIn } from '../drive/seen';
import { wordMayTurn } from '../drive/turning';
import { recordsByStep } from '../trial/records';
import { POWER_CYCLE } from '../trial/shipped-trials';
import { roleActive } from '../words/read';
import type { Mark, Source } from './document';
import {
  driveKey,
  fromExchange,
  fromSheet,
  knownOfRole,
  knownValue,
  timeText,
  valueText,
  type HandoverDrive,
  type KeptRun,
  type KnownValue,
} from './drive';
import type { Written } from './trace-facts';

/** One thing to see to before leaving a drive, and what the bench knows of it. */
export interface Check {
  readonly key: string;
  readonly what: string;
  readonly found: string;
  readonly mark: Mark;
  readonly from: Source;
}

type Found = Omit<Check, 'key'>;
const BENCH: Source = { of: 'bench' };

/** A restart of a drive, and whether only somebody says so. */
interface Restart {
  readonly atMs: number;
  readonly from: Source;
  readonly isSaid: boolean;
}

/** The last restart: by its order, or by the supply in the trial of that. */
function restartOf({ facts: { restarted }, runs }: HandoverDrive): Restart | null {
  const ordered = restarted ? [{ atMs: restarted.atMs, from: fromExchange(restarted), isSaid: false }] : [];
  return [...ordered, ...runs.flatMap(supplyRestart)].sort((a, b) => b.atMs - a.atMs)[0] ?? null;
}

/** Somebody answered that the supply is on again, and the drive was seen to answer after that. */
function supplyRestart({ id, startedMs, compiled, run }: KeptRun): readonly Restart[] {
  if (compiled.trial.id !== POWER_CYCLE) return [];
  const back = compiled.steps.findIndex(({ step }) => step.kind === 'return');
  const [first, seen] = [run?.records[0], recordsByStep(compiled.steps, run)[back]?.at(-1)];
  return first && seen?.good === true
    ? [{ atMs: startedMs + (seen.toUs - first.fromUs) / 1000, from: { of: 'run', id }, isSaid: true }]
    : [];
}

/** What the bench can look at by itself, in the order in which one leaves: the shaft first. Each says nothing where it does not apply. */
const CHECKS: Readonly<
  Record<string, (drive: HandoverDrive, index: SheetIndex, zoneMinutes: number) => readonly Found[]>
> = {
  'run word': (drive, index, zoneMinutes) => {
    const place = index.byRole.get('control-word');
    if (!place || !index.words) return [];
    const what = 'no word that asks it to run is left in it';
    const known = knownValue(drive, place);
    const doubt = doubtOf(drive, place);
    if (doubt && wordMayTurn(index, doubt.pattern))
      return [
        {
          what,
          found: `control word ${hexNumber(doubt.pattern)} went out ${timeText(doubt.atMs, zoneMinutes)} and no sure answer came: it may run`,
          mark: 'bad',
          from: doubt.from,
        },
      ];
    if (!known)
      return [{ what, found: 'its control word was neither written nor read', mark: 'open', from: fromSheet(index) }];
    const asks = wordMayTurn(index, known.pattern);
    return [
      {
        what,
        found: `control word ${hexNumber(known.pattern)}${asks ? ' asks it to run' : ''}${whenText(known, zoneMinutes)}`,
        mark: asks ? 'bad' : 'good',
        from: known.from,
      },
    ];
  },
  reference: (drive, index, zoneMinutes) => {
    const place = index.byRole.get('speed-reference');
    const known = place && knownValue(drive, place);
    // A drive that goes to positions keeps the speed of its moves; nothing turns by that.
    if (!place || !known || axisOf(index)) return [];
    const isZero = numberOf(place, known.pattern) === 0;
    return [
      {
        what: 'its speed reference is 0',
        found: `${valueText(index, place, known.pattern)}${whenText(known, zoneMinutes)}`,
        mark: isZero ? 'good' : 'open',
        from: known.from,
      },
    ];
  },
  stop: ({ facts: { stop } }, index, zoneMinutes) => {
    const what = 'Stop was tried, and it found out that the shaft stands';
    if (!canStop(index))
      return [{ what, found: 'its sheet says no way to stop it', mark: 'bad', from: fromSheet(index) }];
    if (!stop) return [{ what, found: 'Stop was not pressed', mark: 'open', from: BENCH }];
    const isSeen = stop.outcome === 'stopped';
    const isSaid = stop.outcome.startsWith('a person');
    return [
      {
        what,
        found: `${stop.outcome.replace(/-/g, ' ')}, ${timeText(stop.atMs, zoneMinutes)}`,
        mark: isSeen ? 'good' : isSaid ? 'person' : 'bad',
        from: fromExchange(stop),
      },
    ];
  },
  fault: (drive, index, zoneMinutes) => {
    const what = 'it has no fault';
    const place = index.byRole.get('fault-code');
    const known = place && knownValue(drive, place);
    if (place && known)
      return [
        {
          what,
          found: `${valueText(index, place, known.pattern)}${whenText(known, zoneMinutes)}`,
          mark: known.pattern === 0 ? 'good' : 'bad',
          from: known.from,
        },
      ];
    const status = knownOfRole(drive, 'status-word');
    const isFault = status && index.words ? roleActive(index.words.status, 'fault', status.pattern) : null;
    return isFault === null || !status
      ? [{ what, found: 'neither fault nor status was read', mark: 'open', from: BENCH }]
      : [
          {
            what,
            found: `by status word ${hexNumber(status.pattern)}${whenText(status, zoneMinutes)}`,
            mark: isFault ? 'bad' : 'good',
            from: status.from,
          },
        ];
  },
  watch: (drive, index, zoneMinutes) => {
    const place = index.byRole.get('watchdog-time');
    if (!place) return [];
    const what = 'it watches its link';
    const known = knownValue(drive, place);
    if (!known) return [{ what, found: `${place.number} ${place.name} was not read`, mark: 'open', from: BENCH }];
    return [
      {
        what,
        found: `${place.number} ${place.name}: ${known.pattern === 0 ? 'off' : valueText(index, place, known.pattern)}${whenText(known, zoneMinutes)}`,
        mark: known.pattern === 0 ? 'bad' : 'good',
        from: known.from,
      },
    ];
  },
  sources: (drive, index, zoneMinutes) =>
    (['command-source', 'reference-source', 'selector'] as const).flatMap((role): readonly Found[] => {
      const place = index.byRole.get(role);
      if (!place) return [];
      const known = knownOfRole(drive, role);
      return [
        {
          what: `${place.name} is where the plant wants it`,
          found: known ? `${valueText(index, place, known.pattern)}${whenText(known, zoneMinutes)}` : 'not read',
          mark: 'open',
          from: known?.from ?? BENCH,
        },
      ];
    }),
  masks: (drive, index) => {
    const masking = index.parameters.flatMap((parameter) => {
      if (parameter.choices === undefined && parameter.fields === undefined) return [];
      const known = knownValue(drive, parameter);
      const texts = known ? disabledTexts(parameter, wordsOfSaid(parameter, known.pattern)) : [];
      return known && texts.length > 0 ? [{ number: parameter.number, texts, from: known.from }] : [];
    });
    return masking.map(({ number, texts, from }) => ({
      what: 'nothing that guards is masked',
      found: `${number}: ${texts.join('; ')}`,
      mark: 'bad',
      from,
    }));
  },
  kept: (drive, index, zoneMinutes) => {
    const written = settingsWritten(drive, index);
    const order = index.byRole.get('keep');
    const { kept } = drive.facts;
    const restarted = restartOf(drive);
    return written.flatMap(({ parameter, last }): readonly Found[] => {
      const name = `${parameter.number} ${parameter.name}`;
      const isKept = last.keeps ?? parameter.kept;
      if (isKept === undefined || (restarted && restarted.atMs > last.atMs)) return [];
      const what = 'what was written is kept when power goes';
      const from = fromExchange(last);
      if (last.keeps) return [{ what, found: `${name}: kept by its write`, mark: 'good', from }];
      if (!isKept) return [{ what, found: `${name} is in working memory only`, mark: 'bad', from }];
      if (!order) return [];
      return kept && kept.atMs >= last.atMs
        ? [{ what, found: `${name}: kept ${timeText(kept.atMs, zoneMinutes)}`, mark: 'good', from: fromExchange(kept) }]
        : [{ what, found: `${name}: ${order.number} ${order.name} was not given after it`, mark: 'bad', from }];
    });
  },
  restart: (drive, index) =>
    settingsWritten(drive, index).flatMap(({ parameter, last }): readonly Found[] => {
      if (parameter.effect !== 'restart') return [];
      const restarted = restartOf(drive);
      const isDone = restarted !== null && restarted.atMs > last.atMs;
      const how = !isDone
        ? ': no restart was seen after it'
        : restarted.isSaid
          ? ': its supply was off and on, as somebody said, and it answered again'
          : '';
      return [
        {
          what: 'what waits for a restart had one',
          found: `${parameter.number} ${parameter.name}${how}`,
          mark: !isDone ? 'bad' : restarted.isSaid ? 'person' : 'good',
          from: isDone ? restarted.from : fromExchange(last),
        },
      ];
    }),
  'put back': (drive, index) =>
    settingsWritten(drive, index).flatMap(({ parameter, last, before }): readonly Found[] => {
      const known = knownValue(drive, parameter);
      const why = reasonOf(drive, parameter);
      const text = (word: number): string => valueText(index, parameter, word);
      if (known !== null && before === known.pattern) return [];
      const now = known ? text(known.pattern) : 'not read again';
      return [
        {
          what: 'what was changed is meant to stay',
          found: `${parameter.number} ${parameter.name}: ${before === undefined ? 'what it was is not known' : `was ${text(before)}`}, now ${now}${why === '' ? '; nobody said why' : `; ${why}`}`,
          mark: why === '' ? 'open' : 'good',
          from: fromExchange(last),
        },
      ];
    }),
  'read again': (drive, index, zoneMinutes) => {
    const what = 'what was written was read again, and is equal';
    const unanswered = index.parameters.flatMap((parameter): readonly Found[] => {
      const doubt = whyNotPlanned(parameter) === '' ? doubtOf(drive, parameter) : null;
      return doubt
        ? [
            {
              what,
              found: `${parameter.number} ${parameter.name} was sent as ${valueText(index, parameter, doubt.pattern)} ${timeText(doubt.atMs, zoneMinutes)}, and no sure answer came`,
              mark: 'open',
              from: doubt.from,
            },
          ]
        : [];
    });
    return [
      ...unanswered,
      ...settingsWritten(drive, index).flatMap(({ parameter, last, word }): readonly Found[] => {
        const known = knownValue(drive, parameter);
        const isLater = known !== null && known.atMs !== null && known.atMs > last.atMs;
        if (isLater && known.pattern === word) return [];
        const found = isLater
          ? `${parameter.number} ${parameter.name} holds ${valueText(index, parameter, known.pattern)}`
          : `${parameter.number} ${parameter.name} was not read after it was written`;
        return [{ what, found, mark: isLater ? 'bad' : 'open', from: isLater ? known.from : fromExchange(last) }];
      }),
    ];
  },
};

/** `, 2026-11-20 09:14:03`: when it was so; empty where nobody said when. */
const whenText = ({ atMs }: KnownValue, zoneMinutes: number): string =>
  atMs === null ? '' : `, ${timeText(atMs, zoneMinutes)}`;

/** A value that went out whole, and of which no sure answer came since. */
function doubtOf(
  { facts }: HandoverDrive,
  parameter: PlacedParameter,
): { readonly pattern: number; readonly from: Source; readonly atMs: number } | null {
  const pattern = patternIn(parameter, (cell) => facts.doubts.get(cell)?.word);
  const [first] = parameter.cells.flatMap((cell) => facts.doubts.get(cell) ?? []);
  return pattern === undefined || !first ? null : { pattern, from: fromExchange(first), atMs: first.atMs };
}

interface SettingWritten {
  readonly parameter: PlacedParameter;
  /** The write of its last part. */
  readonly last: Written;
  /** The value that was written, and what was held before; undefined where a part of it was not written, or not read. */
  readonly word: number | undefined;
  readonly before: number | undefined;
}

/** Settings that were written and confirmed; orders and words that live are none. */
function settingsWritten({ facts }: HandoverDrive, index: SheetIndex): readonly SettingWritten[] {
  const found = new Map<string, SettingWritten>();
  for (const [cell, last] of facts.written) {
    const parameter = index.byCell.get(cell);
    if (!parameter || whyNotPlanned(parameter) !== '') continue;
    const word = patternIn(parameter, (one) => facts.written.get(one)?.word);
    const before = patternIn(parameter, (one) => facts.written.get(one)?.before);
    found.set(parameter.number, { parameter, last, word, before });
  }
  return [...found.values()];
}

/** Why a value was written, by the plan that it was in; empty where it was in none. */
const reasonOf = ({ writings }: HandoverDrive, { number }: PlacedParameter): string =>
  writings
    .flatMap(({ items }) => items)
    .findLast((item) => item.number === number && (item.result.kind === 'equal' || item.result.kind === 'confirmed'))
    ?.reason ?? '';

/** All that the bench can say of a drive before it is left. */
export function checksOf(drive: HandoverDrive, zoneMinutes: number): readonly Check[] {
  const { index, facts, line } = drive;
  const key = driveKey(drive);
  const answer: Check = {
    key: `${key} answers`,
    what: 'it answers',
    found: facts.last
      ? `last ${timeText(facts.last.atMs, zoneMinutes)}`
      : line.far === 'not-built'
        ? 'nobody is at the other end of this line yet'
        : 'no answer of it is in the trace',
    mark: facts.last ? 'good' : 'open',
    from: facts.last ? fromExchange(facts.last) : BENCH,
  };
  if (!index)
    return [
      answer,
      {
        key: `${key} sheet`,
        what: 'its words are known',
        found: 'no sheet says what its values mean, nor how it is stopped',
        mark: 'open',
        from: { of: 'job' },
      },
    ];
  // A drive that nobody spoke to has no words to be seen to.
  if (!facts.last) return [answer];
  return [
    answer,
    ...Object.entries(CHECKS).flatMap(([id, look]) =>
      look(drive, index, zoneMinutes).map((found, i) => ({ ...found, key: `${key} ${id}${i === 0 ? '' : ` ${i}`}` })),
    ),
  ];
}
