import { meaningOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';
import { patternIn } from '../drive/seen';

/** What a restart did to one setting. */
export interface RestartRow {
  readonly parameter: PlacedParameter;
  /** `active`: it waited for the restart and holds now. `lost`: it was not kept and fell back. `changed`: it is another without that reason. */
  readonly kind: 'active' | 'lost' | 'changed';
  readonly before: string;
  readonly after: string;
}

/** Registers that live: what they hold says nothing about settings. */
const LIVES: ReadonlySet<string> = new Set([
  'status-word',
  'fault-code',
  'control-word',
  'speed-reference',
  'actual-speed',
  'current',
  'torque',
  'selector',
]);

/**
 * Compares the settings read before a restart with those read after it. `written`: cells that were written since the drive last started,
 * so that a setting that waited is told from one that was active all along.
 */
export function compareRestart(
  index: SheetIndex,
  before: ReadonlyMap<Cell, number>,
  after: ReadonlyMap<Cell, number>,
  written: ReadonlySet<Cell>,
): readonly RestartRow[] {
  return index.parameters.flatMap((parameter): RestartRow[] => {
    const [was, is] = [before, after].map((values) => patternIn(parameter, (cell) => values.get(cell)));
    const isWritten = parameter.cells.some((cell) => written.has(cell));
    // Hours and temperatures go on by themselves, whether it restarts or not.
    const isLive = parameter.write === 'never' && parameter.role === undefined;
    if (was === undefined || is === undefined || isLive || LIVES.has(parameter.role ?? '')) return [];
    const row = (kind: RestartRow['kind']): RestartRow => ({
      parameter,
      kind,
      before: meaningOf(index, parameter, was),
      after: meaningOf(index, parameter, is),
    });
    if (was === is) return parameter.effect === 'restart' && isWritten ? [row('active')] : [];
    return [row(isWritten ? 'lost' : 'changed')];
  });
}
