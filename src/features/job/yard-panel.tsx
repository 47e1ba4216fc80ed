'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { BEHAVIOUR_TEXT, HAND_TEXT, makeBehave, touchStandin, useNetworkYard } from '../../bench/hooks/network-yard';
import { lineOf, stationName, stationOf } from '../../bench/state/bench-state';
import { CALM, type Disturbance } from '../../messages/line';
import { ActButton } from '../../ui/act-button';
import { Panel } from '../../ui/panel';
import styles from './job.module.css';

/** What can be done to the simulated line, from calm to bad. Shares are per byte or per reply. */
const WEATHER: readonly { readonly name: string; readonly disturbance: Disturbance }[] = [
  { name: 'calm', disturbance: CALM },
  {
    name: 'noisy cable',
    disturbance: { ...CALM, dropByte: 0.002, flipBits: 0.01 },
  },
  {
    name: 'slow answers',
    disturbance: { ...CALM, delayReplyUs: 180_000 },
  },
  {
    name: 'someone else answers',
    disturbance: { ...CALM, foreignReply: 0.4 },
  },
  { name: 'unplugged', disturbance: { ...CALM, open: 'everywhere' } },
  { name: 'conductors swapped', disturbance: { ...CALM, swapped: true } },
  { name: 'local echo', disturbance: { ...CALM, echo: true } },
  { name: 'late turnaround', disturbance: { ...CALM, lateTurnaround: true } },
  { name: 'another master', disturbance: { ...CALM, otherMaster: true } },
];

const SPEEDS = [1, 10] as const;

/** The hands of the person at the stand-in: what no network can do. None of it exists for a real drive. */
export function YardPanel() {
  const bench = useBench();
  const line = useBenchState(lineOf);
  const station = useBenchState(stationOf);
  const speed = useBenchState((state) => state.yardSpeed);
  const turning = useBenchState((state) => state.turning.length);
  const realTime = useBenchState((state) => state.realTime);
  const [weather, setWeather] = useState('calm');
  const [selector, setSelector] = useState<ReadonlyMap<string, 'local' | 'remote'>>(new Map());
  if (line?.far === 'tcp') return <NetworkYardPanel port={line.tcp?.port ?? 0} host={line.tcp?.host ?? ''} />;
  if (line?.far !== 'yard' || !station) return null;
  const { station: number, id: key } = station;
  const at = { line: line.id, station: number };
  const stands = selector.get(key) ?? 'remote';
  const turn = (to: 'local' | 'remote', liveFault: number): void => {
    setSelector(new Map(selector).set(key, to));
    bench.post({ kind: 'hands', ...at, hands: { selector: to, liveFault } });
  };
  return (
    <Panel
      title="Stand-in yard"
      aside="simulated drives in this page; they power up anew with each reload, only kept settings survive"
    >
      <div className={styles.hands}>
        <span>Line {line.name}</span>
        <div role="group" aria-label="Line weather">
          {WEATHER.map((kind) => (
            <Button
              key={kind.name}
              variant="outlined"
              color="inherit"
              aria-pressed={weather === kind.name}
              onClick={() => {
                setWeather(kind.name);
                bench.post({ kind: 'disturb', line: line.id, disturbance: kind.disturbance });
              }}
            >
              {kind.name}
            </Button>
          ))}
        </div>
        <span>At {stationName(station)}</span>
        <div>
          <Button variant="outlined" color="inherit" onClick={() => turn(stands === 'remote' ? 'local' : 'remote', 0)}>
            Turn the selector to {stands === 'remote' ? 'local' : 'remote'}
          </Button>
          <Button variant="outlined" color="inherit" onClick={() => turn(stands, 12)}>
            Let the motor overheat
          </Button>
          <Button variant="outlined" color="inherit" onClick={() => turn(stands, 0)}>
            Let it cool
          </Button>
          {(['off', 'off-and-on'] as const).map((turn) => (
            <Button
              key={turn}
              variant="outlined"
              color="inherit"
              onClick={() => bench.post({ kind: 'power', ...at, turn })}
            >
              Power {turn === 'off' ? 'off' : 'off and on'}
            </Button>
          ))}
        </div>
        <span>Time in the yard</span>
        <div>
          {SPEEDS.map((factor) => (
            <ActButton
              key={factor}
              variant="outlined"
              color="inherit"
              aria-pressed={speed === factor}
              off={realTime && factor !== 1 ? 'a real link is open' : ''}
              onClick={() => bench.post({ kind: 'yard-speed', factor })}
            >
              × {factor}
            </ActButton>
          ))}
          <span className={styles.soft}>
            {realTime && 'a real link is open, so time runs as in life; '}
            {turning === 0 ? 'no shaft turns' : turning === 1 ? 'one shaft turns' : `${turning} shafts turn`}
          </span>
        </div>
      </div>
    </Panel>
  );
}

/** The hands at a stand-in that the local server runs behind a real socket. */
function NetworkYardPanel({ host, port }: { readonly host: string; readonly port: number }) {
  const device = useNetworkYard().find((candidate) => candidate.port === port && host === '127.0.0.1');
  if (!device) return null;
  return (
    <Panel
      title="Stand-in of the local server"
      aside={`${device.name} on ${host} port ${port}; simulated there, reached like a real device`}
    >
      <div className={styles.hands}>
        <span>The device</span>
        <div role="group" aria-label="Behaviour of the device">
          {Object.entries(BEHAVIOUR_TEXT).map(([id, text]) => (
            <Button
              key={id}
              variant="outlined"
              color="inherit"
              aria-pressed={device.behaviour === id}
              onClick={() => makeBehave(device.name, id)}
            >
              {text}
            </Button>
          ))}
        </div>
        {device.hands.length > 0 && (
          <>
            <span>A person at it</span>
            <div role="group" aria-label="Hands at the device">
              {Object.entries(HAND_TEXT)
                .filter(([id]) => device.hands.includes(id))
                .map(([id, text]) => (
                  <Button key={id} variant="outlined" color="inherit" onClick={() => touchStandin(device.name, id)}>
                    {text}
                  </Button>
                ))}
            </div>
          </>
        )}
      </div>
    </Panel>
  );
}
