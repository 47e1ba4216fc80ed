import Papa from 'papaparse';
import { harmless } from '../sets/set-csv';
import { measureRows, stepRows } from './report-rows';
import type { TrialReport } from './report';

/** A report as a CSV that a spreadsheet opens: its steps, an empty line, and what was measured. */
export const csvOfReport = (report: TrialReport): string =>
  Papa.unparse(
    [...stepRows(report), [], ...measureRows(report)].map((row) => row.map(harmless)),
    { newline: '\r\n' },
  );
