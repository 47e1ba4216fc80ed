import alderFord from '../../../demo/alder-ford.json';
import curlew from '../../../sheets/curlew.json';
import dunlin from '../../../sheets/dunlin.json';
import linnet from '../../../sheets/linnet.json';
import pipit from '../../../sheets/pipit.json';
import siskin from '../../../sheets/siskin.json';
import tern from '../../../sheets/tern.json';
import wren from '../../../sheets/wren.json';
import curlew1 from '../../../sheets/earlier/curlew-1.json';
import curlew2 from '../../../sheets/earlier/curlew-2.json';
import dunlin1 from '../../../sheets/earlier/dunlin-1.json';
import redshank from '../../../sheets/unlisted/redshank.json';
import { longTail, type TailNumbering } from './long-tail';
import { onRoundTable } from './round-table';
import { inTelegram3 } from './telegram-3';

/** A sheet's file with its dictionary made as long as a real drive's. */
const withTail = <T extends { readonly parameters: readonly unknown[] }>(sheet: T, numbering: TailNumbering) => ({
  ...sheet,
  parameters: [...sheet.parameters, ...longTail(numbering)],
});

const DUNLIN_TAIL: TailNumbering = { kind: 'row', first: 1000, stride: 40, uss: true };
const CURLEW_TAIL: TailNumbering = { kind: 'row', first: 200, stride: 40 };

/**
 * What ships, as it stands in its files; not validated. The page has it from the local server as data (`store/shipped.ts`), so that it is no part
 * of the script that a first view loads.
 */
export const SHIPPED_FILES: {
  readonly sheets: Readonly<Record<string, unknown>>;
  /** Revisions that shipped before: old jobs and traces are read by them. */
  readonly earlier: Readonly<Record<string, unknown>>;
  /** Sheets from which stand-ins run and which the bench itself does not have: a technician makes them anew. */
  readonly unlisted: Readonly<Record<string, unknown>>;
  readonly demo: typeof alderFord;
} = {
  sheets: {
    tern: withTail(tern, { kind: 'groups', first: 20 }),
    wren: withTail(wren, { kind: 'row', first: 100, stride: 40 }),
    curlew: withTail(curlew, CURLEW_TAIL),
    'curlew-table': withTail(onRoundTable(curlew), CURLEW_TAIL),
    dunlin: withTail(dunlin, DUNLIN_TAIL),
    'dunlin-telegram-3': withTail(inTelegram3(dunlin), DUNLIN_TAIL),
    pipit,
    siskin,
    linnet,
  },
  earlier: {
    'curlew 1': withTail(curlew1, CURLEW_TAIL),
    'curlew 2': withTail(curlew2, CURLEW_TAIL),
    'dunlin 1': withTail(dunlin1, DUNLIN_TAIL),
  },
  unlisted: { redshank },
  demo: alderFord,
};
