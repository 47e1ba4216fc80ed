import { RECORD_FORMAT, SECTIONS, type Block, type SectionId, type Visit, type VisitRecord } from './document';
import type { HandoverInput } from './drive';
import { addressBlocks, cableBlocks, identityBlocks, keypadBlocks, lineBlocks } from './sections/lines';
import { leavingBlocks, openBlocks } from './sections/leaving';
import { exchangeBlocks, faultBlocks } from './sections/seen';
import { trialBlocks } from './sections/trials';
import { valueBlocks } from './sections/values';
import { cyclicBlocks, scalingBlocks, wordBlocks } from './sections/words';

/** Each section of a record: its title, what makes it, and what is said where there is nothing. */
const MADE: Readonly<
  Record<
    SectionId,
    { readonly title: string; readonly blocks: (input: HandoverInput) => readonly Block[]; readonly none: string }
  >
> = {
  open: { title: 'What is open', blocks: openBlocks, none: '' },
  lines: { title: 'Lines and drives', blocks: lineBlocks, none: 'The job has no line.' },
  identity: {
    title: 'Who the drives are',
    blocks: identityBlocks,
    none: 'No sheet says what tells a drive from another.',
  },
  cables: { title: 'Cables', blocks: cableBlocks, none: 'No cable is drawn.' },
  addresses: { title: 'Network addresses', blocks: addressBlocks, none: 'There is no address plan.' },
  keypad: { title: 'At the drives’ keys', blocks: keypadBlocks, none: 'No sheet lists settings at the keys.' },
  words: { title: 'Words and places', blocks: wordBlocks, none: 'No drive has a sheet.' },
  scaling: { title: 'Scaling', blocks: scalingBlocks, none: 'No sheet has a scale.' },
  cyclic: { title: 'Cyclic data', blocks: cyclicBlocks, none: 'No sheet lists process data.' },
  values: { title: 'Settings', blocks: valueBlocks, none: 'No drive’s values were read.' },
  trials: { title: 'Trials', blocks: trialBlocks, none: 'No trial was run.' },
  faults: { title: 'Faults met', blocks: faultBlocks, none: 'No fault was seen.' },
  exchanges: { title: 'Exchanges as bytes', blocks: exchangeBlocks, none: 'Nothing was exchanged.' },
  leaving: { title: 'Before leaving', blocks: leavingBlocks, none: '' },
};

export const sectionTitle = (id: SectionId): string => MADE[id].title;

/** The sections of a visit in its order, those that are left out too. */
export const sectionOrder = ({ order }: Visit): readonly SectionId[] => [
  ...order,
  ...SECTIONS.filter((id) => !order.includes(id)),
];

/** The record of a visit out of all that is known: pure, the same for the same data to the last byte. */
export function makeRecord(input: HandoverInput): VisitRecord {
  const { job, visit, madeMs, zoneMinutes } = input;
  return {
    format: RECORD_FORMAT,
    kind: 'record of a visit',
    job: { id: job.id, name: job.name },
    plant: visit.plant === '' ? job.name : visit.plant,
    visit: visit.visit,
    by: visit.by,
    made: new Date(madeMs).toISOString(),
    zoneMinutes,
    sections: sectionOrder(visit)
      .filter((id) => !visit.leftOut.includes(id))
      .map((id) => {
        const { title, blocks, none } = MADE[id];
        const made = [...blocks(input)];
        return {
          id,
          title,
          remark: visit.remarks[id] ?? '',
          blocks: made.length > 0 ? made : [{ kind: 'text' as const, text: none, from: { of: 'bench' as const } }],
        };
      }),
  };
}
