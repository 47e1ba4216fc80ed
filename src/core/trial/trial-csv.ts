import Papa from 'papaparse';
import { harmless } from '../sets/set-csv';
import type { TrialReport } from './report';

/** The steps of a report as rows of text, with their heading. */
const stepRows = ({ steps }: TrialReport): readonly (readonly string[])[] => [
  ['step', 'what is done and expected', 'verdict', 'seen', 'why', 'seconds', 'exchanges'],
  ...steps.map(({ compiled, verdict, seen, why, fromUs, toUs, exchanges }, i) => [
    `${i + 1}`,
    compiled.text,
    verdict,
    seen,
    why,
    fromUs === null || toUs === null ? '' : ((toUs - fromUs) / 1e6).toFixed(3),
    exchanges.join(' '),
  ]),
];

/** What was measured, the same way. */
const measureRows = ({ measures }: TrialReport): readonly (readonly string[])[] =>
  measures.length === 0
    ? []
    : [
        ['measured', 'value', 'verdict', 'should be'],
        ...measures.map(({ name, text, verdict, should }) => [name, text, verdict, should]),
      ];

/** A report as a CSV that a spreadsheet opens: its steps, an empty line, and what was measured. */
export const csvOfReport = (report: TrialReport): string =>
  Papa.unparse(
    [...stepRows(report), [], ...measureRows(report)].map((row) => row.map(harmless)),
    { newline: '\r\n' },
  );
