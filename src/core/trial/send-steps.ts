import { hexToBytes } from '../bytes/hex';
import { framed } from '../dialect/write';
import { literalBytes } from '../dialect/literal';
import { done, failed, type Result } from '../result';
import { type At, type Made, type TrialWay } from './requests';
import type { TrialStep } from './trial';

/**
 * A request as it stands. Nobody knows what the drive is in afterwards, and what writes may turn its shaft: the way of the states begins anew at the
 * next step that reads them.
 */
export function sendSteps({ bytes: text, expects }: Extract<TrialStep, { kind: 'send' }>, way: TrialWay, at: At): Made {
  const bytes = requestOf(way, text);
  if (!bytes.ok) return bytes;
  if (way.places.writes(bytes.value)) {
    at.here = [];
    at.word = null;
    at.position = undefined;
    at.turns = true;
  }
  return done([
    {
      kind: 'request',
      text: `send ${text}`,
      station: way.station,
      bytes: bytes.value,
      needs: expects,
    },
  ]);
}

/** The whole frame of what is typed, for the drive of the trial; or why it is none. */
function requestOf({ protocol, index, station }: TrialWay, text: string): Result<Uint8Array, string> {
  const { dialect } = index.sheet;
  if (!protocol) return failed('how this line speaks is not known here');
  const typed = dialect ? { ok: true as const, value: framed(dialect, literalBytes(text)) } : hexToBytes(text);
  if (!typed.ok) return failed(typed.error.text);
  const bytes = protocol.read(typed.value, 'request').whole ? typed.value : protocol.completed(typed.value);
  if (!bytes || bytes.length === 0 || bytes.length > protocol.longest)
    return failed('these bytes are no request of this line, with or without their check');
  const named = protocol.stationOf(bytes);
  return named === null || named === station
    ? done(bytes)
    : failed(`it is for station ${named}: a trial speaks to its own drive, ${station}`);
}
