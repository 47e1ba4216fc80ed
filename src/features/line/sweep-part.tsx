'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useHarmless } from '../../bench/hooks/use-harmless';
import { newId } from '../../bench/new-id';
import { withLine } from '../../core/job/job';
import { settingsText, type SerialSettings } from '../../core/line/settings';
import { alikeTo, hostRange, hostSweepSeconds, settingsToTry, stationRange } from '../../core/sweep/sweep-plan';
import { PROVES_LINK, type SweepFinding } from '../../link/sweep-run';
import { ActButton } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { Panel, Warning } from '../../ui/panel';
import styles from './line.module.css';
import { useTyped } from '../../bench/hooks/use-typed';
import { EverythingSweep } from './everything-sweep';
import { Disturbs, Progress, Runner, longestSeconds, secondsText, timeoutOf, useSweepState } from './sweep-runner';
import { WhoIsIt } from './who-is-it';
import { showEnds } from './show-ends';

/** Unknown settings, stations and addresses, found by trying. */
export function SweepPart() {
  const { key, line, protocol } = useCurrent();
  return (
    <div className={styles.stack}>
      <WhoIsIt key={key} />
      {line?.far !== 'tcp' && <EverythingSweep />}
      {line?.far !== 'tcp' && <SettingsSweep />}
      {line?.far !== 'not-built' && protocol && protocol.stations.most > 0 && <StationSweep />}
      <AddressSweep />
      <p className={styles.soft}>
        A sweep only reads, or connects and closes again: nothing that it sends can turn a shaft. Stop ends it.
      </p>
    </div>
  );
}

function SettingsSweep() {
  const bench = useBench();
  const { line, station, index, name } = useCurrent();
  const harmless = useHarmless();
  const state = useSweepState('settings');
  const own = line?.serial;
  if (!line || !own) return null;
  const tries = settingsToTry(own, index?.sheet.link?.serial ?? null);
  const timeoutUs = timeoutOf(line);
  const longestS = longestSeconds(tries, timeoutUs);
  const plan = {
    kind: 'settings',
    steps: tries.map(({ settings }) => ({ station: station?.station ?? 1, bytes: harmless(), settings })),
    timeoutUs,
    own,
    untilFound: true,
  } as const;
  const found = state?.found.find(({ outcome }) => PROVES_LINK.has(outcome)) ?? null;
  return (
    <Panel
      title="Unknown settings"
      aside={`${tries.length} settings, likely ones first; at most ${secondsText(longestS)}; stops at the first answer of ${name}`}
    >
      <Disturbs />
      <Runner plan={plan} text="Try the usual settings" perTryS={longestS / tries.length} />
      {found?.settings && (
        <p data-testid="sweep-found">
          <strong className={styles.good}>✓ {settingsText(found.settings)}</strong> works, found after {state?.done}{' '}
          tries. {alikeTo(found.settings).join(', ')} would look the same.{' '}
          <Button
            variant="contained"
            color="secondary"
            onClick={() => {
              const { settings } = found;
              if (!settings) return;
              bench.setEnd(line.id, settings);
              showEnds(bench, line.id, settings);
            }}
          >
            Set this end to {settingsText(found.settings)}
          </Button>
        </p>
      )}
      {state && !state.running && !found && state.done > 0 && (
        <p className={styles.soft} data-testid="sweep-found">
          {state.done < state.total
            ? 'Ended before all were tried.'
            : `None of ${state.total} settings was answered by ${name}: ${triedText(tries)}. Next: is it powered, is its station number ${station?.station ?? 1}, are A and B crossed? Then sweep the stations, or ask the doctor.`}
          {state.found.length > 0 &&
            ` Something came at ${state.found.map(({ settings }) => settings && settingsText(settings)).join(', ')}, but nothing that can be read.`}
        </p>
      )}
    </Panel>
  );
}

/** Which rates and forms were tried, each once. */
function triedText(tries: readonly { readonly settings: SerialSettings }[]): string {
  const rates = [...new Set(tries.map(({ settings }) => settings.rate))].sort((a, b) => a - b);
  const forms = [...new Set(tries.map(({ settings }) => settingsText(settings).split(' ')[1] ?? ''))];
  return `${rates.join(', ')} bit/s with ${forms.join(', ')}`;
}

function StationSweep() {
  const bench = useBench();
  const { line, protocol, key } = useCurrent();
  const harmless = useHarmless();
  const state = useSweepState('stations');
  const { least, most } = protocol?.stations ?? { least: 1, most: 247 };
  const [first, setFirst] = useTyped('station sweep', key, 'first', String(least));
  const [last, setLast] = useTyped('station sweep', key, 'last', String(Math.min(most, 32)));
  if (!line || !protocol) return null;
  const number = (text: string): number => (/^\s*-?\d+\s*$/.test(text) ? parseInt(text, 10) : NaN);
  const range = stationRange(number(first), number(last), most, least);
  const timeoutUs = timeoutOf(line);
  const stations = range.ok ? range.value : [];
  const perTryS = (2 * timeoutUs) / 1e6 + 0.01;
  const plan = {
    kind: 'stations',
    steps: stations.map((station) => ({ station, bytes: harmless(station) })),
    timeoutUs,
    own: null,
    untilFound: false,
  } as const;
  const add = ({ station }: SweepFinding): void =>
    void bench.changeJob((job) =>
      withLine(job, line.id, (own) => ({
        ...own,
        stations: [...own.stations, { id: newId(), station, name: `found ${station}` }],
      })),
    );
  return (
    <Panel
      title="Unknown stations"
      aside={`${protocol.family === 'uss' ? 'a mirror telegram to each' : 'one read of each'}; at most ${secondsText(stations.length * perTryS)}, ${protocol.name}`}
    >
      <Disturbs />
      <div className={styles.row} style={{ marginBottom: 6, marginTop: 8 }}>
        <TypedField
          label="from station"
          value={first}
          onChange={setFirst}
          error={range.ok ? '' : range.error}
          width={220}
        />
        <TypedField label="to station" value={last} onChange={setLast} width={120} />
      </div>
      <Runner plan={plan} text={`Try ${stations.length} stations`} perTryS={perTryS} />
      {state && !state.running && state.found.length === 0 && state.done > 0 && (
        <p className={styles.soft} data-testid="stations-found">
          {state.done < state.total
            ? `Ended after ${state.done} of ${state.total} stations`
            : `None of ${state.total} stations`}{' '}
          answered {line.serial && line.far !== 'tcp' ? `at ${settingsText(line.serial)}` : 'over this connection'},
          each asked one thing that any drive of {protocol.name} answers. Next: sweep the settings, since a wrong rate
          or form looks the same; then power and cable.
        </p>
      )}
      {state && state.found.length > 0 && (
        <div className={styles.row} style={{ marginTop: 8 }} data-testid="stations-found">
          {state.found.map((finding) => {
            const known = line.stations.find(({ station }) => station === finding.station);
            return known ? (
              <span key={finding.step}>
                <strong className={styles.good}>✓ {finding.station}</strong> {known.name}
              </span>
            ) : (
              <Button key={finding.step} variant="outlined" color="secondary" onClick={() => add(finding)}>
                Take {finding.station} into the job
              </Button>
            );
          })}
        </div>
      )}
    </Panel>
  );
}

function AddressSweep() {
  const bench = useBench();
  const state = useBenchState((current) => current.ipSweep);
  const [text, setText] = useTyped('address sweep', '', 'hosts', '127.0.0.1-127.0.0.8');
  const [portText, setPort] = useTyped('address sweep', '', 'port', '47502');
  const hosts = hostRange(text);
  const port = /^\s*\d+\s*$/.test(portText) ? parseInt(portText, 10) : NaN;
  const portError = port >= 1 && port <= 65_535 ? '' : `“${portText.trim()}”: 1 to 65535`;
  const list = hosts.ok ? hosts.value : [];
  const perTryS = hostSweepSeconds(4) / 4;
  const start = (from: number): void => bench.post({ kind: 'ip-sweep', plan: { hosts: list, port, from } });
  const take = (host: string, at: number): void => {
    const id = newId();
    bench.changeJob((job) => ({
      ...job,
      lines: [
        ...job.lines,
        {
          id,
          name: `found ${host}`,
          medium: 'Ethernet',
          protocol: 'modbus-tcp',
          far: 'tcp',
          tcp: { host, port: at },
          stations: [{ id: newId(), station: 1, name: 'found device' }],
        },
      ],
    }));
    bench.select(id, 1);
  };
  return (
    <Panel
      title="Unknown addresses"
      aside={`one TCP port on ${list.length} hosts; connects and closes; at most ${secondsText(hostSweepSeconds(list.length))}`}
    >
      <div className={styles.row}>
        <TypedField
          label="hosts: subnet or range"
          value={text}
          onChange={setText}
          error={hosts.ok ? '' : hosts.error}
          width={260}
        />
        <TypedField label="TCP port" value={portText} onChange={setPort} error={portError} width={130} />
        {state?.running ? (
          <Button variant="contained" onClick={() => bench.post({ kind: 'end-ip-sweep' })}>
            End the sweep
          </Button>
        ) : (
          <ActButton variant="contained" off={hosts.ok ? portError : hosts.error} onClick={() => start(0)}>
            Try {list.length} addresses
          </ActButton>
        )}
        {state && !state.running && state.done > 0 && state.done < state.total && (
          <Button variant="outlined" color="inherit" onClick={() => start(state.done)}>
            Go on from {list[state.done]}
          </Button>
        )}
        {state && <Progress state={state} perTryS={perTryS} />}
      </div>
      {state?.trouble && <Warning>{state.trouble}</Warning>}
      {state && state.found.length > 0 && (
        <div className={styles.row} style={{ marginTop: 8 }} data-testid="hosts-found">
          {state.found.map(({ host, port: at, kind }) =>
            kind === 'open' ? (
              <Button key={host} variant="outlined" color="secondary" onClick={() => take(host, at)}>
                Make {host} port {at} a line
              </Button>
            ) : (
              <span key={host} className={styles.soft}>
                {host}: somebody is there, nothing at port {at}
              </span>
            ),
          )}
        </div>
      )}
    </Panel>
  );
}
