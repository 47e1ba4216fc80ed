import { asideOf, compareSets, type CompareRow } from '../../sets/compare-sets';
import { defaultWitness, type Witness } from '../../sets/witness';
import type { Block, Row, Source } from '../document';
import { driveKey, driveName, timeText, type HandoverDrive, type HandoverInput, type KeptSet } from '../drive';
import { table } from './lines';

const witness = (set: KeptSet, kind: Witness['kind'], name: string): Witness => ({
  id: set.id,
  kind,
  name,
  index: set.index,
  said: set.said,
});

/** Values as they were read last: what differs from the factory and from the last visit, what was refused, what was written and why. */
export const valueBlocks = (input: HandoverInput): readonly Block[] =>
  input.drives.flatMap((drive) => valuesOf(drive, input));

function valuesOf(drive: HandoverDrive, { zoneMinutes }: HandoverInput): readonly Block[] {
  const { now, visits, writings } = drive;
  const name = driveName(drive);
  const key = driveKey(drive);
  const written = table(
    `${name}: written`,
    ['setting', 'why', 'what came of it'],
    writings.flatMap(({ id, items }) =>
      items.map(({ number, name: called, reason, result }): Row => ({
        key: `written ${key} ${id} ${number}`,
        cells: [`${number} ${called}`, reason, RESULT_TEXT[result.kind]],
        mark:
          result.kind === 'equal' ? 'good' : result.kind === 'refused' || result.kind === 'kept-as' ? 'bad' : 'open',
        from: { of: 'writing', id },
      })),
    ),
  );
  if (!now) return written;
  const from: Source = { of: 'set', id: now.id };
  const last = visits[visits.length - 1];
  const own = witness(now, 'drive', 'the drive');
  const differing = (other: Witness): readonly CompareRow[] =>
    compareSets([own, other]).filter(({ verdict, parameter }) => verdict === 'differs' && asideOf(parameter) === null);
  const refused = now.index.parameters.flatMap((parameter): readonly Row[] => {
    const said = now.said.get(parameter.number);
    if (!said || said.kind === 'value') return [];
    return [
      {
        key: `refused ${key} ${parameter.number}`,
        cells: [`${parameter.number} ${parameter.name}`, said.kind === 'refused' ? said.why : 'no answer'],
        mark: 'open',
        from,
      },
    ];
  });
  const rows = (kind: string, found: readonly CompareRow[]): readonly Row[] =>
    found.map(({ number, name: called, texts, follows }) => ({
      key: `${kind} ${key} ${number}`,
      cells: [`${number} ${called}`, ...texts, follows, kind === 'factory' ? whyOf(drive, number) : ''],
      from,
    }));
  const told = [...now.said.values()].filter(({ kind }) => kind === 'value').length;
  return [
    {
      kind: 'text',
      text: `${name}: ${told} of ${now.index.parameters.length} values read ${timeText(now.startedMs, zoneMinutes)}.`,
      from,
    },
    ...table(
      `${name}: not as it left the factory`,
      ['setting', 'the drive', 'the factory', 'what follows', 'why'],
      rows('factory', differing(defaultWitness(now.index))),
    ),
    ...(last
      ? table(
          `${name}: not as at ${last.name}`,
          ['setting', 'the drive', last.name, 'what follows', ''],
          rows('visit', differing(witness(last, 'visit', last.name))),
        )
      : []),
    ...table(`${name}: not told by the drive`, ['value', 'why'], refused),
    ...written,
  ];
}

/** Why a setting is as it is, where a plan said so. */
const whyOf = ({ writings }: HandoverDrive, number: string): string =>
  writings.flatMap(({ items }) => items).findLast((item) => item.number === number && item.result.kind === 'equal')
    ?.reason ?? '';

const RESULT_TEXT = {
  waiting: 'not written yet',
  sent: 'sent, and nothing sure came back',
  confirmed: 'confirmed, not read again',
  equal: 'read again: equal',
  'kept-as': 'read again: another value',
  refused: 'refused',
  'not-reached': 'not written',
} as const;
