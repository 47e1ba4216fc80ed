import { SECTIONS, type SectionId } from './document';
import type { Visit } from './visit';

/** The sections of a record as they stand on the page. */
export const SECTION_TITLES: Readonly<Record<SectionId, string>> = {
  open: 'What is open',
  lines: 'Lines and drives',
  identity: 'Who the drives are',
  cables: 'Cables',
  addresses: 'Network addresses',
  keypad: 'At the drives’ keys',
  words: 'Words and places',
  scaling: 'Scaling',
  cyclic: 'Cyclic data',
  values: 'Settings',
  trials: 'Trials',
  photographs: 'Photographs',
  faults: 'Faults met',
  exchanges: 'Exchanges as bytes',
  leaving: 'Before leaving',
};

/** The sections of a visit in its order, those that are left out too. */
export const sectionOrder = ({ order }: Visit): readonly SectionId[] => [
  ...order,
  ...SECTIONS.filter((id) => !order.includes(id)),
];
