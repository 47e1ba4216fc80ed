import { RECORD_FORMAT, type Block, type SectionId, type VisitRecord } from './document';
import type { HandoverInput } from './drive';
import { addressBlocks, cableBlocks, identityBlocks, keypadBlocks, lineBlocks } from './sections/lines';
import { SECTION_TITLES, sectionOrder } from './section-titles';
import { leavingBlocks, openBlocks } from './sections/leaving';
import { exchangeBlocks, faultBlocks } from './sections/seen';
import { photographBlocks } from './sections/photographs';
import { trialBlocks } from './sections/trials';
import { valueBlocks } from './sections/values';
import { cyclicBlocks } from './sections/cyclic';
import { scalingBlocks, wordBlocks } from './sections/words';

/** Each section of a record: what makes it, and what is said where there is nothing. */
const MADE: Readonly<
  Record<SectionId, { readonly blocks: (input: HandoverInput) => readonly Block[]; readonly none: string }>
> = {
  open: { blocks: openBlocks, none: '' },
  lines: { blocks: lineBlocks, none: 'The job has no line.' },
  identity: {
    blocks: identityBlocks,
    none: 'No sheet says what tells a drive from another.',
  },
  cables: { blocks: cableBlocks, none: 'No cable is drawn.' },
  addresses: { blocks: addressBlocks, none: 'There is no address plan.' },
  keypad: { blocks: keypadBlocks, none: 'No sheet lists settings at the keys.' },
  words: { blocks: wordBlocks, none: 'No drive has a sheet.' },
  scaling: { blocks: scalingBlocks, none: 'No sheet has a scale.' },
  cyclic: { blocks: cyclicBlocks, none: 'No sheet lists process data.' },
  values: { blocks: valueBlocks, none: 'No drive’s values were read.' },
  trials: { blocks: trialBlocks, none: 'No trial was run.' },
  photographs: { blocks: photographBlocks, none: 'There is no photograph.' },
  faults: { blocks: faultBlocks, none: 'No fault was seen.' },
  exchanges: { blocks: exchangeBlocks, none: 'Nothing was exchanged.' },
  leaving: { blocks: leavingBlocks, none: '' },
};

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
    ...(visit.sinceMs === undefined ? {} : { since: new Date(visit.sinceMs).toISOString() }),
    zoneMinutes,
    sections: sectionOrder(visit)
      .filter((id) => !visit.leftOut.includes(id))
      .map((id) => {
        const { blocks, none } = MADE[id];
        const made = [...blocks(input)];
        return {
          id,
          title: SECTION_TITLES[id],
          remark: visit.remarks[id] ?? '',
          blocks: made.length > 0 ? made : [{ kind: 'text' as const, text: none, from: { of: 'bench' as const } }],
        };
      }),
  };
}
