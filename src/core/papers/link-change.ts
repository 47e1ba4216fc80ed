import type { SerialSettings } from '../line/settings';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import { failed, done, type Result } from '../result';

/** One write of a change of both ends, in order. */
export interface LinkWrite {
  readonly parameter: PlacedParameter;
  readonly raw: number;
  readonly why: string;
}

export interface LinkChange {
  /** What is written to the drive, the restart last. */
  readonly writes: readonly LinkWrite[];
  /** Whether the drive takes the new settings with a restart, which it is asked for. */
  readonly restarts: boolean;
  /** How to get back when nothing answers under the new settings. */
  readonly wayBack: string;
  /** Length of the break that returns the drive to its factory settings, where it knows one. */
  readonly breakMs: number | null;
}

/**
 * The order in which the settings of both ends change: first the drive's (while it can still be heard), kept, then the restart that makes
 * them active, and this end's right after its answer. The error says why the drive cannot be changed over the link.
 */
export function linkChange(index: SheetIndex, from: SerialSettings, to: SerialSettings): Result<LinkChange, string> {
  const rate = index.byRole.get('bit-rate');
  const form = index.byRole.get('character-form');
  const [restart, keep] = [index.byRole.get('restart'), index.byRole.get('keep')];
  const writes: LinkWrite[] = [];
  const choose = (parameter: PlacedParameter | undefined, name: string, why: string): string | null => {
    if (!parameter) return `the sheet names no setting for the ${why}`;
    const raw = parameter.choices?.find((choice) => choice.name === name)?.value;
    if (raw === undefined)
      return `the drive has no ${name}: ${parameter.choices?.map((choice) => choice.name).join(', ') ?? ''} are possible`;
    writes.push({ parameter, raw, why: `the drive’s ${why} becomes ${name}` });
    return null;
  };
  const formOf = ({ dataBits, parity, stopBits }: SerialSettings): string => `${dataBits}${parity}${stopBits}`;
  const troubles = [
    ...(from.rate === to.rate ? [] : [choose(rate, `${to.rate}`, 'bit rate')]),
    ...(formOf(from) === formOf(to) ? [] : [choose(form, formOf(to), 'character form')]),
  ].filter((text) => text !== null);
  if (troubles[0] !== undefined) return failed(troubles[0]);
  if (writes.length === 0) return failed('these are the settings that both ends have now');
  const waits = writes.some(({ parameter }) => parameter.effect === 'restart');
  if (waits && !restart)
    return failed('the drive takes these settings after it was off and on, and it has no restart over the link');
  if (waits && keep) writes.push({ parameter: keep, raw: 1, why: 'the settings are kept without power' });
  if (waits && restart) writes.push({ parameter: restart, raw: 1, why: 'the drive restarts and listens anew' });
  const breakMs = index.sheet.link?.breakToDefaultMs ?? null;
  return done({
    writes,
    restarts: waits,
    breakMs,
    wayBack:
      breakMs !== null
        ? `a break of ${breakMs} ms returns the drive to the settings that it left the factory with`
        : 'the old settings at the keypad, then off and on',
  });
}
