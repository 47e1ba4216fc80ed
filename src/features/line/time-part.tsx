'use client';

import { liveIn } from '../../bench/state/known-state';
import { useCurrent } from '../../bench/hooks/use-current';
import {
  cycleFor,
  characterTimes,
  exchangeStretches,
  idealCycle,
  stationsThatFit,
  totalUs,
  ussLongestUs,
  watchdogSafeUs,
  type ExchangeSize,
  type LineTiming,
} from '../../core/line/budget';
import { settingsText } from '../../core/line/settings';
import { scalingOf } from '../../core/drive/describe';
import { rolePattern } from '../../core/drive/role-value';
import { TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';
import { LineCyclePanel } from './line-cycle-panel';
import { TimeRuler } from './time-ruler';
import { useTyped } from '../../bench/hooks/use-typed';

const ms = (us: number, digits = 2): string => `${(us / 1000).toFixed(digits)} ms`;

/** A number within limits, or the sentence for its field. */
function numberIn(
  text: string,
  least: number,
  most: number,
): { readonly value: number | null; readonly error: string } {
  const value = /^\s*-?\d+(?:\.\d+)?\s*$/.test(text) ? Number(text) : NaN;
  return value >= least && value <= most
    ? { value, error: '' }
    : { value: null, error: `“${text.trim()}”: ${least} to ${most}` };
}

/** The time of an exchange to scale, with the working of every number, and what follows for the cycle. */
export function TimePart() {
  const { line, index, view, key } = useCurrent();
  const tcp = line?.protocol === 'modbus-tcp';
  const head = tcp ? 12 : 8;
  const [requestText, setRequest] = useTyped('time', key, 'request', `${head}`);
  const [replyText, setReply] = useTyped('time', key, 'reply', `${tcp ? 17 : 13}`);
  const [delayText, setDelay] = useTyped('time', key, 'delay', '5');
  const [countText, setCount] = useTyped('time', key, 'stations', `${Math.max(1, line?.stations.length ?? 1)}`);
  const [cycleText, setCycle] = useTyped('time', key, 'cycle', '100');
  const request = numberIn(requestText, 1, 4096);
  const reply = numberIn(replyText, 0, 4096);
  const delay = numberIn(delayText, 0, 60_000);
  const count = numberIn(countText, 1, 247);
  const cycle = numberIn(cycleText, 0.1, 3_600_000);
  if (!line) return null;
  const timing = timingOf(line, (delay.value ?? 5) * 1000);
  if (!timing) return <Panel title="Time">This line has no serial settings.</Panel>;
  const size: ExchangeSize = {
    requestBytes: request.value ?? head,
    replyBytes: reply.value ?? 13,
    replyDelayUs: (delay.value ?? 5) * 1000,
  };
  const stretches = exchangeStretches(timing, size);
  const each = totalUs(stretches);
  const whole = idealCycle(
    timing,
    Array.from({ length: count.value ?? 1 }, (_, i) => ({ ...size, station: i + 1, times: 1 })),
  );
  const place = index?.byRole.get('watchdog-time');
  const word =
    index === null ? undefined : rolePattern(index, 'watchdog-time', place && liveIn(place, view.values)?.word);
  const seconds = index && place && word !== undefined ? scalingOf(index.sheet, place, word)?.value : undefined;
  const watchdogUs = seconds ? Number((seconds.num * 1_000_000n) / seconds.den) : null;
  const safe =
    watchdogUs === null ? null : watchdogSafeUs(watchdogUs, each, (index?.sheet.link?.replyWithinMs ?? 200) * 1000);
  return (
    <div className={styles.stack}>
      <Panel
        title="One exchange, to scale"
        aside={`${ms(each)} in all${'settings' in timing ? `, at ${settingsText(timing.settings)}` : ''}`}
      >
        <TimeRuler stretches={stretches} />
        <table className={styles.table}>
          <tbody>
            {stretches.map(({ kind, us, working }) => (
              <tr key={kind}>
                <td>{STRETCH_TEXT[kind]}</td>
                <td className={styles.mono}>{ms(us, 3)}</td>
                <td className={styles.soft}>{working}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Panel>
      <LineCyclePanel timing={timing} replyDelayUs={(delay.value ?? 5) * 1000} wantedMs={cycle.value} />
      <div className={styles.columns}>
        <Panel title="Cycle budget" aside="what is asked, and how often it can be">
          <div className={styles.row}>
            <TypedField
              label="request, bytes"
              value={requestText}
              onChange={setRequest}
              error={request.error}
              width={112}
            />
            <TypedField label="reply, bytes" value={replyText} onChange={setReply} error={reply.error} width={112} />
            <TypedField
              label={tcp ? 'round trip, ms' : 'reply delay, ms'}
              value={delayText}
              onChange={setDelay}
              error={delay.error}
              width={112}
            />
            <TypedField label="stations" value={countText} onChange={setCount} error={count.error} width={84} />
            <TypedField
              label="wanted cycle, ms"
              value={cycleText}
              onChange={setCycle}
              error={cycle.error}
              width={124}
            />
          </div>
          <table className={styles.table}>
            <tbody>
              <tr>
                <td>shortest cycle of {count.value ?? '?'} stations</td>
                <td className={styles.mono}>{count.value === null ? '' : ms(cycleFor(timing, [size], count.value))}</td>
                <td className={styles.soft}>
                  {count.value ?? ''} × {ms(each)}
                </td>
              </tr>
              <tr>
                <td>share of it with bytes on the wire</td>
                <td className={styles.mono}>{Math.round(whole.busy * 100)} %</td>
                <td className={styles.soft}>the rest is silence and waiting</td>
              </tr>
              <tr>
                <td>stations that fit {cycle.value ?? '?'} ms</td>
                <td className={styles.mono}>
                  {cycle.value === null ? '' : stationsThatFit(timing, [size], cycle.value * 1000)}
                </td>
                <td className={styles.soft}>
                  {cycle.value ?? ''} ms / {ms(each)}, whole ones
                </td>
              </tr>
              <tr>
                <td>longest interval that keeps the watchdog calm</td>
                <td className={styles.mono}>
                  {watchdogUs === null ? 'not known' : safe === null ? 'none' : ms(safe, 0)}
                </td>
                <td className={styles.soft}>
                  {watchdogUs === null
                    ? 'no watchdog time is known of this drive'
                    : `watchdog ${(watchdogUs / 1e6).toFixed(1)} s (${place && liveIn(place, view.values) ? 'read' : 'sheet'}), two commands in a row may get lost`}
                </td>
              </tr>
            </tbody>
          </table>
        </Panel>
        {'settings' in timing && (
          <Panel title="Characters" aside="to compare with a manual">
            <table className={styles.table}>
              <tbody>
                {characterTimes(timing.settings).map(({ name, us }) => (
                  <tr key={name}>
                    <td>{name}</td>
                    <td className={styles.mono}>{ms(us, 3)}</td>
                  </tr>
                ))}
                <tr>
                  <td>USS: longest telegram of 14 bytes</td>
                  <td className={styles.mono}>{ms(ussLongestUs(timing.settings, 14), 1)}</td>
                </tr>
              </tbody>
            </table>
          </Panel>
        )}
      </div>
    </div>
  );
}

const STRETCH_TEXT = { request: '▸ request', 'reply-delay': 'reply delay', reply: '◂ reply', gap: 'silence' } as const;

function timingOf(line: NonNullable<ReturnType<typeof useCurrent>['line']>, roundTripUs: number): LineTiming | null {
  if (line.protocol === 'modbus-tcp') return { kind: 'modbus-tcp', roundTripUs };
  if (!line.serial) return null;
  const kind = line.protocol === 'modbus-rtu' || line.protocol === 'uss' ? line.protocol : 'ascii';
  return { kind, settings: line.serial };
}
