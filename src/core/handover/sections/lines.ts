import { checkCable, wireList } from '../../cable/check-cable';
import { checkWiring } from '../../cable/check-wiring';
import { MEDIA } from '../../cable/wiring';
import { PROTOCOL_TEXT } from '../../job/job';
import { checkIpPlan } from '../../line/check-ip-plan';
import { settingsText } from '../../line/settings';
import { identityOf } from '../../drive/identity';
import { keypadCard } from '../../papers/keypad-card';
import type { Block, Row, Table } from '../document';
import {
  driveKey,
  driveName,
  fromExchange,
  fromSheet,
  JOB,
  knownValue,
  seenOf,
  timeText,
  type HandoverInput,
} from '../drive';

/** A table that is left out where it has no rows. */
export const table = (title: string, head: readonly string[], rows: readonly Row[]): readonly Table[] =>
  rows.length === 0 ? [] : [{ kind: 'table', title, head: [...head], rows: [...rows] }];

/** Lines with the settings of this end, and the drives on them with how sure it is that they are there. */
export function lineBlocks({ job, drives, zoneMinutes }: HandoverInput): readonly Block[] {
  return [
    ...table(
      'Lines',
      ['line', 'medium', 'protocol', 'this end', 'other end'],
      job.lines.map(({ id, name, medium, protocol, serial, tcp, far }) => ({
        key: `line ${id}`,
        cells: [
          name,
          medium,
          PROTOCOL_TEXT[protocol],
          serial ? settingsText(serial) : '',
          tcp ? `${tcp.host}, port ${tcp.port}` : FAR_TEXT[far],
        ],
        from: JOB,
      })),
    ),
    ...table(
      'Drives',
      ['line', 'station', 'drive', 'sheet', 'how it is known'],
      drives.map((drive) => {
        const { line, station, index, facts } = drive;
        const { first, last, answers, silences } = facts;
        return {
          key: `drive ${driveKey(drive)}`,
          cells: [
            line.name,
            `${station.station}`,
            `${station.name}${station.about === undefined ? '' : `: ${station.about}`}`,
            index ? `${index.sheet.name}, revision ${index.sheet.revision}` : 'none',
            first && last
              ? `answered ${answers} times, ${timeText(first.atMs, zoneMinutes)} to ${timeText(last.atMs, zoneMinutes)}${silences > 0 ? `, silent ${silences} times` : ''}`
              : silences > 0
                ? `did not answer, asked ${silences} times`
                : 'not asked',
          ],
          mark: last ? ('good' as const) : ('open' as const),
          from: last ? fromExchange(last) : JOB,
        };
      }),
    ),
  ];
}

const FAR_TEXT = {
  yard: 'stand-ins of this program, no real drives',
  tcp: 'a network address',
  'serial-port': 'a serial port of this computer',
  'not-built': 'nobody yet',
} as const;

/** Who each drive says it is, as it was read. */
export function identityBlocks({ drives }: HandoverInput): readonly Block[] {
  return drives.flatMap((drive) => {
    const { index } = drive;
    if (!index) return [];
    return table(
      driveName(drive),
      ['what', 'as read', 'the sheet was written for'],
      identityOf(index, seenOf(drive)).map(({ parameter, expected, actual, verdict }) => ({
        key: `identity ${driveKey(drive)} ${parameter.number}`,
        cells: [`${parameter.number} ${parameter.name}`, actual ?? 'not read', expected],
        mark: verdict === 'same' ? 'good' : verdict === 'differs' ? 'bad' : 'open',
        from: knownValue(drive, parameter)?.from ?? fromSheet(index),
      })),
    );
  });
}

/** Each cable with its cores, the wiring from port to port, and what is wrong with them. */
export function cableBlocks({ job }: HandoverInput): readonly Block[] {
  return [...serialCableBlocks(job), ...wiringBlocks(job)];
}

function serialCableBlocks(job: HandoverInput['job']): readonly Block[] {
  return job.lines.flatMap(({ id, name, cable, serial }) => {
    if (!cable) return [];
    const [a, b] = cable.ends;
    const faults = checkCable(cable, serial?.rate ?? null);
    return [
      ...table(
        `${name}: ${cable.lengthM} m, ${a.name} to ${b.name}`,
        ['core', a.name, 'signal', 'colour', b.name, 'signal'],
        wireList(cable).map(({ core, from, fromSignal, colour, to, toSignal }) => ({
          key: `core ${id} ${from}-${to}`,
          cells: [`${core}`, from, fromSignal, colour, to, toSignal],
          from: JOB,
        })),
      ),
      ...table(
        `${name}: the line`,
        ['what', 'how'],
        [
          ['devices, this end included', `${cable.devices}`],
          [
            'terminators',
            `${cable.terminators.near ? 'this end' : ''}${cable.terminators.near && cable.terminators.far ? ' and ' : ''}${cable.terminators.far ? 'the far end' : ''}${!cable.terminators.near && !cable.terminators.far ? 'none at the ends' : ''}, ${cable.terminators.between} between, ${cable.terminators.ohm} ohm`,
          ],
          ['places with bias', `${cable.biased}`],
          ['longest stub', `${cable.longestStubM} m`],
        ].map(([what = '', how = '']) => ({ key: `cable ${id} ${what}`, cells: [what, how], from: JOB })),
      ),
      ...table(
        `${name}: what the cable has against itself`,
        ['what'],
        faults.map(({ text, weight }, i) => ({
          key: `cable ${id} fault ${i}`,
          cells: [text],
          mark: weight === 'fault' ? 'bad' : 'open',
          from: JOB,
        })),
      ),
    ];
  });
}

function wiringBlocks({ wiring, ipPlan = [] }: HandoverInput['job']): readonly Block[] {
  if (!wiring) return [];
  const { notes, devices } = checkWiring(
    wiring,
    ipPlan.map(({ name }) => name),
  );
  const seen = new Map<string, number>();
  // The same at every visit whatever the order of the list; links that say the same are told apart by their count.
  const keyOf = (text: string): string => {
    const times = (seen.get(text) ?? 0) + 1;
    seen.set(text, times);
    return times === 1 ? text : `${text} (${times})`;
  };
  return [
    ...table(
      'From port to port',
      ['link', 'device', 'port', 'device', 'port', 'medium', 'length', 'what stands against it'],
      wiring.links.map(({ a, b, medium, lengthM }, link) => {
        const own = notes.filter((note) => note.link === link);
        return {
          key: keyOf(`wiring ${a.device} ${a.port} ${b.device} ${b.port}`),
          cells: [
            `${link + 1}`,
            a.device,
            a.port,
            b.device,
            b.port,
            MEDIA[medium].name,
            lengthM.trim() === '' ? 'not said' : `${lengthM.trim()} m`,
            own.map(({ text }) => text).join('; '),
          ],
          ...(own.some(({ weight }) => weight === 'fault') ? { mark: 'bad' as const } : {}),
          from: JOB,
        };
      }),
    ),
    ...table(
      `Links from ${wiring.root}`,
      ['device', 'links between'],
      devices.map(({ name, hops }) => ({
        key: `wiring of ${name}`,
        cells: [name, hops === null ? 'not reached' : `${hops}`],
        ...(hops === null ? { mark: 'bad' as const } : {}),
        from: JOB,
      })),
    ),
    ...table(
      'What the wiring has against itself',
      ['what'],
      notes.flatMap(({ link, weight, text }, i) =>
        link >= 0
          ? []
          : [
              {
                key: `wiring note ${i}`,
                cells: [text],
                mark: weight === 'fault' ? ('bad' as const) : ('open' as const),
                from: JOB,
              },
            ],
      ),
    ),
  ];
}

/** The address plan with what its check says. */
export function addressBlocks({ job: { ipPlan = [] } }: HandoverInput): readonly Block[] {
  const notes = checkIpPlan(ipPlan).filter(({ weight }) => weight !== 'good');
  return table(
    'Address plan',
    ['device', 'what it is', 'address', 'mask', 'port', 'lets in', 'what stands against it'],
    ipPlan.map(({ name, role, address, mask, port = '', master = '' }, host) => {
      const own = notes.filter((note) => note.host === host);
      return {
        key: `address ${name}`,
        cells: [name, role, address, mask, port, master, own.map(({ text }) => text).join('; ')],
        ...(own.some(({ weight }) => weight === 'fault') ? { mark: 'bad' as const } : {}),
        from: JOB,
      };
    }),
  );
}

/** What is to be set at each drive's keys, what the link has shown of it, what was ticked, and where the manual is wrong. */
export function keypadBlocks({ drives }: HandoverInput): readonly Block[] {
  return drives.flatMap((drive) => {
    const { index, station, line } = drive;
    const steps = index ? keypadCard(index, line.serial ?? null, station.station, seenOf(drive)) : [];
    const ticked = new Set(station.ticked);
    return [
      ...table(
        `${driveName(drive)}: at its keys`,
        ['where', 'what', 'display', 'what is known'],
        steps.map(({ path, what, display, meaning, check, parameter }, i) => ({
          key: `keypad ${driveKey(drive)} ${i}`,
          cells: [
            path,
            what,
            meaning === '' || meaning === display ? display : `${display} = ${meaning}`,
            check.kind === 'met' || check.kind === 'differs'
              ? `read: ${check.text}`
              : ticked.has(i)
                ? 'ticked by hand'
                : 'neither read nor ticked',
          ],
          mark:
            check.kind === 'met'
              ? 'good'
              : check.kind === 'differs'
                ? 'bad'
                : ticked.has(i)
                  ? 'person'
                  : ('open' as const),
          from: (parameter && knownValue(drive, parameter)?.from) ?? (ticked.has(i) ? { of: 'person' } : JOB),
        })),
      ),
      ...table(
        `${driveName(drive)}: where manual and drive disagree`,
        ['setting', 'the manual says', 'what works', 'remark'],
        (station.notes ?? []).map(({ setting, manual, tried, remark }, i) => ({
          key: `note ${driveKey(drive)} ${i}`,
          cells: [setting, manual, tried, remark],
          mark: 'person',
          from: { of: 'person' },
        })),
      ),
    ];
  });
}
