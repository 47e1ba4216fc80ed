import { hexNumber } from '../../bytes/hex';
import { settingsText } from '../../line/settings';
import { PLACE_HEAD, placeCells, wordCard } from '../../papers/word-card';
import { stateOf, targetsOf } from '../../profile/profile';
import { decimalText, multiply, ratio, type Rational } from '../../scaling/rational';
import { toRaw } from '../../scaling/scale';
import { chainOf, valueIn } from '../../drive/describe';
import type { PlacedParameter, SheetIndex } from '../../sheet/index-sheet';
import type { ParameterRole } from '../../sheet/parameter-section';
import type { Block, Row } from '../document';
import {
  driveKey,
  driveName,
  fromSheet,
  knownOfRole,
  valueText,
  type HandoverDrive,
  type HandoverInput,
} from '../drive';
import { table } from './lines';

/** Words, places, states and the longest interval of each drive: what its controller's programmer must have. */
export const wordBlocks = ({ drives }: HandoverInput): readonly Block[] =>
  drives.flatMap((drive) => (drive.index ? wordsOf(drive, drive.index) : []));

function wordsOf(drive: HandoverDrive, index: SheetIndex): readonly Block[] {
  const { line, station, protocol } = drive;
  const key = driveKey(drive);
  const from = fromSheet(index);
  const link = [line.name, line.serial ? settingsText(line.serial) : ''].filter((part) => part !== '').join(', ');
  const card = wordCard(index, station.station, link, protocol?.placesOf(index) ?? null);
  return [
    ...table(
      `${driveName(drive)}: words to send`,
      ['word', 'hex', 'decimal', 'binary', 'frame'],
      card.words.map(({ name, hex, decimal, binary, frame }) => ({
        key: `word ${key} ${name}`,
        cells: [name, hex, decimal, binary, frame],
        from,
      })),
    ),
    ...table(
      `${driveName(drive)}: places${card.places.some(({ hex }) => hex !== '') ? `, ${card.byteOrder}` : ''}`,
      PLACE_HEAD,
      card.places.map((place) => ({
        key: `place ${key} ${place.number}`,
        cells: [...placeCells(place)],
        from,
      })),
    ),
    ...table(`${driveName(drive)}: states`, ['state', 'status word', 'how one gets there'], stateRows(drive, index)),
    ...table(
      `${driveName(drive)}: from state to state`,
      ['what', 'in', 'the control word', 'to'],
      moveRows(drive, index),
    ),
    ...repeatRows(drive, index),
  ];
}

const stateRows = (drive: HandoverDrive, index: SheetIndex): readonly Row[] => {
  const { profile } = index;
  if (!profile) return [];
  const targets = new Set(targetsOf(profile));
  return profile.states.map(({ id, name, mask, value }) => ({
    key: `state ${driveKey(drive)} ${id}`,
    cells: [
      name,
      `${hexNumber(value)} under mask ${hexNumber(mask)}`,
      targets.has(id) ? 'a word leads here' : 'the drive goes here by itself',
    ],
    from: fromSheet(index),
  }));
};

/** Which control words lead from where to where; a bit that must rise is named as that. */
const moveRows = (drive: HandoverDrive, index: SheetIndex): readonly Row[] => {
  const { profile } = index;
  if (!profile) return [];
  const nameOf = (id: string): string => stateOf(profile, id)?.name ?? id;
  return profile.moves.map(({ name, from, to, mask, value, rise }, i) => ({
    key: `move ${driveKey(drive)} ${i}`,
    cells: [
      name,
      from.map(nameOf).join(', '),
      `${hexNumber(value)} under mask ${hexNumber(mask)}${rise === undefined ? '' : `, bit ${rise} rising from 0 to 1`}`,
      nameOf(to),
    ],
    from: fromSheet(index),
  }));
};

/** How often the controller must speak: the drive's own watch, as it was read, else as the factory leaves it. */
function repeatRows(drive: HandoverDrive, index: SheetIndex): readonly Block[] {
  const place = index.byRole.get('watchdog-time');
  if (!place) return [];
  const known = knownOfRole(drive, 'watchdog-time');
  const fed =
    index.sheet.commands?.watchdogFedBy === 'control-write'
      ? 'the control word must be written again within this time'
      : 'any request within this time keeps it calm';
  const text = known
    ? known.pattern === 0
      ? 'off: it does not notice when its controller is gone'
      : `${valueText(index, place, known.pattern)}: ${fed}`
    : `not read; ${fed}`;
  return table(
    `${driveName(drive)}: longest interval`,
    ['setting', 'time'],
    [
      {
        key: `interval ${driveKey(drive)}`,
        cells: [`${place.number} ${place.name}`, text],
        mark: known ? (known.pattern === 0 ? 'bad' : 'good') : 'open',
        from: known?.from ?? fromSheet(index),
      },
    ],
  );
}

const SCALED: readonly ParameterRole[] = ['speed-reference', 'actual-speed', 'target-position', 'actual-position'];
/** Shares of the largest value at which a scale is worked out for a check by hand. */
const POINTS = [ratio(1n, 10n), ratio(1n, 2n), ratio(1n)];

/** Three points of each scale, both ways, with the working. */
export const scalingBlocks = ({ drives }: HandoverInput): readonly Block[] =>
  drives.flatMap((drive) => {
    const { index } = drive;
    if (!index) return [];
    return table(
      `${driveName(drive)}: points to check a scale by`,
      ['what', 'value', 'raw', 'hex', 'the way there', 'and back'],
      SCALED.flatMap((role) => pointsOf(drive, index, role)),
    );
  });

function pointsOf(drive: HandoverDrive, index: SheetIndex, role: ParameterRole): readonly Row[] {
  const place = index.byRole.get(role);
  const chain = place && chainOf(index.sheet, place);
  const top = place && chain && topOf(drive, index, place, chain.unit);
  if (!place || !chain || !top || top.num <= 0n) return [];
  return POINTS.flatMap((share): readonly Row[] => {
    const value = multiply(top, share);
    const raw = toRaw(chain, value);
    if (!raw.ok) return [];
    const { wire, hex, working, sent } = raw.value;
    return [
      {
        key: `scale ${driveKey(drive)} ${role} ${decimalText(share, 2, false)}`,
        cells: [
          `${place.number} ${place.name}`,
          `${decimalText(value, 3, false)} ${chain.unit}`,
          `${wire}`,
          hex,
          working.join('; '),
          `${decimalText(sent, 3, false)} ${chain.unit}`,
        ],
        from: fromSheet(index),
      },
    ];
  });
}

/** The highest value: the drive's own limit of speed, as it was read or as the factory leaves it, where it is of this unit, else the largest that the place takes. */
function topOf(drive: HandoverDrive, index: SheetIndex, place: PlacedParameter, unit: string): Rational | null {
  const limit = place.role?.endsWith('position') ? undefined : index.byRole.get('maximum-speed');
  const most = limit && (knownOfRole(drive, 'maximum-speed')?.pattern ?? limit.default);
  const own =
    limit && most !== undefined && chainOf(index.sheet, limit)?.unit === unit
      ? valueIn(index.sheet, limit, most)
      : null;
  return own && own.num > 0n ? own : valueIn(index.sheet, place, place.max);
}
