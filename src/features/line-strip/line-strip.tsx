'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { indexOf, lineOf, stationName, stationOf, viewOf } from '../../bench/state/bench-state';
import { toldState } from '../../bench/state/told-state';
import { useNetworkYard } from '../../bench/hooks/network-yard';
import { lineLoad } from '../../bench/state/line-load';
import { canStop } from '../../core/drive/can-stop';
import { lineText } from '../../core/job/line-text';
import { troubleOf, type LineLife } from '../../link/line-life';
import { ageText } from '../../ui/format';
import { useKeys } from '../../ui/use-keys';
import styles from './line-strip.module.css';

/** A younger value needs no age beside it. */
const FRESH_US = 1_500_000;

/** The line drawn between its two ends, what is known of the drive, and Stop; on every view. */
export function LineStrip() {
  const bench = useBench();
  const line = useBenchState(lineOf);
  const open = useBenchState((state) => state.lines.get(state.lineId)?.open === true);
  useKeys({ 'Ctrl+.': bench.stop });
  return (
    <header className={styles.strip}>
      <div className={styles.name}>Bujo</div>
      <NearEnd />
      <div className={`${styles.wires} ${open ? '' : styles.closed}`}>
        <div className={styles.label}>{line ? `${line.name} · ${lineText(line)}` : ' '}</div>
        <div className={styles.wire} />
        <div className={styles.wire} />
        {open && (
          <div aria-hidden>
            <Arrows />
          </div>
        )}
        <Load />
      </div>
      <FarEnd />
      <Button
        className={styles.stop}
        variant="contained"
        color="error"
        size="large"
        onClick={bench.stop}
        aria-keyshortcuts="Control+."
      >
        Stop&nbsp;<kbd>Ctrl .</kbd>
      </Button>
    </header>
  );
}

/** Nothing is known of either end before the job is there. */
const useIsStarting = (): boolean => useBenchState(({ phase }) => phase.kind === 'starting');
const NOT_YET = '…';

/** The frame of an end: a stand-in never looks like a real link, and what is not known yet like neither. */
const frameOf = (isStarting: boolean, standin: boolean): string | undefined =>
  isStarting ? styles.unknown : standin ? styles.standin : '';

/** How the bench reaches the drive: a stand-in, in this page or of the local server, never looks like a real link. */
function NearEnd() {
  const line = useBenchState(lineOf);
  const standin = useStandin();
  const isStarting = useIsStarting();
  const text = {
    yard: 'stand-in yard',
    tcp: standin ? 'stand-in, over TCP' : 'real link, over TCP',
    'serial-port': 'real serial port',
    'not-built': 'no link',
  }[line?.far ?? 'not-built'];
  return (
    <div className={`${styles.end} ${styles.near} ${frameOf(isStarting, standin)}`}>
      <strong>This bench</strong>
      {isStarting ? NOT_YET : text}
    </div>
  );
}

/** Whether the drives of the current line are simulated, here or by the local server. */
function useStandin(): boolean {
  const line = useBenchState(lineOf);
  const yard = useNetworkYard();
  return (
    line?.far === 'yard' ||
    (line?.far === 'tcp' && yard.some(({ port }) => port === line.tcp?.port && line.tcp.host === '127.0.0.1'))
  );
}

/** Direction marks, present while something crossed in the last two seconds. */
function Arrows() {
  const active = useBenchState((state) => {
    const last = state.entries[state.entries.length - 1];
    return last?.session === state.session && state.nowUs - last.atUs < 2_000_000 && last.direction !== 'event';
  });
  return active ? (
    <>
      <span className={styles.arrow}>▸ ▸</span>
      <span className={styles.arrow}>◂ ◂</span>
    </>
  ) : null;
}

/** What the line is while it is not open. */
function lifeText(life: LineLife | undefined): string {
  switch (life?.kind) {
    case 'elsewhere':
      return 'another tab has this line; Stop is passed on to it';
    case 'lost':
      return `lost, tried again by itself: ${life.trouble.text}`;
    case 'opening':
      return 'is being opened; nothing is sent by that';
    case 'closing':
      return 'is being closed';
    default:
      return troubleOf(life)?.text ?? 'closed, nothing is sent';
  }
}

/** Which words they are, and how often they go out, stands below the stage. */
const aliveText = (count: number): readonly string[] =>
  count === 0 ? [] : [count === 1 ? '1 run word kept alive' : `${count} run words kept alive`];

function Load() {
  const text = useBenchState((state) => {
    const line = lineOf(state);
    const known = state.lines.get(state.lineId);
    if (state.phase.kind === 'starting') return 'the job is being opened';
    if (!line || line.far === 'not-built') return 'this line has no way to its other end yet; set it up in Line';
    if (!known?.open) return lifeText(known?.life);
    const load = lineLoad(state.entries, line.id, state.session, line.serial ?? null, state.nowUs);
    const faults = load.faults === 0 ? 'no fault' : load.faults === 1 ? '1 fault' : `${load.faults} faults`;
    const rate = load.exchangesPerS.toFixed(load.exchangesPerS < 10 ? 1 : 0);
    const share = load.share === null ? [] : [`${Math.round(load.share * 100)} % of the line`];
    return [`${rate} exchanges/s`, faults, ...share, ...aliveText(known.keepAlives.length)].join(' · ');
  });
  return (
    <div className={styles.load} title={text}>
      {text}
    </div>
  );
}

function FarEnd() {
  const station = useBenchState(stationOf);
  const isStarting = useIsStarting();
  const known = useBenchState((state) => {
    const { text, ageUs, stale } = toldState(state, indexOf(state), viewOf(state));
    const index = indexOf(state);
    const unstoppable = index?.words && !canStop(index) ? 'Stop cannot stop it · ' : '';
    return `${stale ? '1' : '0'}${unstoppable}${text}${ageUs === null || ageUs < FRESH_US ? '' : ` · ${ageText(ageUs)}`}`;
  });
  const standin = useStandin();
  const text = isStarting ? '\u00a0' : known.slice(1);
  return (
    <div className={`${styles.end} ${styles.far} ${frameOf(isStarting, standin)}`} role="status" aria-label="Drive">
      <strong>{station ? stationName(station) : isStarting ? NOT_YET : 'no station'}</strong>
      <span className={known.startsWith('1') ? styles.stale : ''} title={text}>
        {text}
      </span>
    </div>
  );
}
