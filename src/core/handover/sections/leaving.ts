import { checksOf } from '../checks';
import { PERSON_CHECKS } from '../person-checks';
import type { Block, Row } from '../document';
import { driveName, timeText, type HandoverInput } from '../drive';
import { table } from './lines';
import { unproved } from './trials';

const HEAD = ['drive', 'what', 'what is known'];

/** What nobody proved, and what is not as it should be left: the page that is read first. */
export function openBlocks(input: HandoverInput): readonly Block[] {
  const { drives, visit, zoneMinutes } = input;
  const rows = [
    ...drives.flatMap((drive) =>
      checksOf(drive, zoneMinutes)
        .filter(({ mark }) => mark === 'bad' || mark === 'open')
        .map(({ key, what, found, mark, from }): Row => ({
          key: `open ${key}`,
          cells: [driveName(drive), what, found],
          mark,
          from,
        })),
    ),
    ...drives.flatMap(unproved),
    ...Object.entries(PERSON_CHECKS)
      .filter(([id]) => !visit.ticks[id])
      .map(([id, what]): Row => ({
        key: `open person ${id}`,
        cells: ['', what, 'nobody said so'],
        mark: 'open',
        from: { of: 'bench' },
      })),
  ];
  // What is not as it should be stands before what is only not known.
  const sorted = [...rows.filter(({ mark }) => mark === 'bad'), ...rows.filter(({ mark }) => mark !== 'bad')];
  const standins = drives.filter(({ line, facts }) => line.far === 'yard' && facts.last);
  const warning: readonly Block[] =
    standins.length === 0
      ? []
      : [
          {
            kind: 'text',
            text: `Simulated: ${standins.map(driveName).join('; ')}. What was seen of them proves nothing about a real drive.`,
            from: { of: 'job' },
          },
        ];
  return rows.length === 0
    ? [...warning, { kind: 'text', text: 'Nothing that the bench looks at is open.', from: { of: 'bench' } }]
    : [...warning, ...table('What is not proved, and what is left open', HEAD, sorted)];
}

/** Everything that was looked at before leaving, good and bad, by the bench and by people. */
export function leavingBlocks({ drives, visit, zoneMinutes }: HandoverInput): readonly Block[] {
  return [
    ...table(
      'What the bench looked at',
      HEAD,
      drives.flatMap((drive) =>
        checksOf(drive, zoneMinutes).map(({ key, what, found, mark, from }): Row => ({
          key: `check ${key}`,
          cells: [driveName(drive), what, found],
          mark,
          from,
        })),
      ),
    ),
    ...table(
      'What a person saw to',
      ['what', 'who and when'],
      Object.entries(PERSON_CHECKS).map(([id, what]): Row => {
        const tick = visit.ticks[id];
        return {
          key: `person ${id}`,
          cells: [what, tick ? `${tick.by}, ${timeText(tick.atMs, zoneMinutes)}` : 'nobody said so'],
          mark: tick ? 'person' : 'open',
          from: { of: tick ? 'person' : 'bench' },
        };
      }),
    ),
  ];
}
