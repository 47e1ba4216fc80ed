'use client';

import Button from '@mui/material/Button';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useHarmless } from '../../bench/hooks/use-harmless';
import { newId } from '../../bench/new-id';
import { withLine } from '../../core/job/job';
import { settingsText } from '../../core/line/settings';
import { everythingToTry, settingsToTry } from '../../core/sweep/sweep-plan';
import { PROVES_LINK, type SweepFinding } from '../../link/sweep-run';
import { Panel } from '../../ui/panel';
import { Disturbs, Runner, longestSeconds, secondsText, timeoutOf, useSweepState } from './sweep-runner';

/** Rate, form and station together, for a drive of which nothing is known; what is found becomes a station. */
export function EverythingSweep() {
  const bench = useBench();
  const { line, station, index, protocol } = useCurrent();
  const harmless = useHarmless();
  const state = useSweepState('everything');
  const own = line?.serial;
  if (!line || !own || !protocol || protocol.stations.most === 0) return null;
  const tries = everythingToTry(
    settingsToTry(own, index?.sheet.link?.serial ?? null),
    protocol.stations,
    station?.station ?? null,
  );
  const timeoutUs = timeoutOf(line);
  const longestS = longestSeconds(tries, timeoutUs);
  const plan = {
    kind: 'everything',
    steps: tries.map(({ settings, station: at }) => ({ station: at, bytes: harmless(at), settings })),
    timeoutUs,
    own,
    untilFound: true,
  } as const;
  const found = state?.found.find(({ outcome }) => PROVES_LINK.has(outcome)) ?? null;
  const take = ({ station: at, settings }: SweepFinding): void => {
    if (settings) bench.setEnd(line.id, settings);
    if (!line.stations.some((one) => one.station === at))
      bench.changeJob((job) =>
        withLine(job, line.id, (before) => ({
          ...before,
          ...(settings ? { serial: settings } : {}),
          stations: [...before.stations, { id: newId(), station: at, name: `found ${at}` }],
        })),
      );
    bench.select(line.id, at);
  };
  return (
    <Panel
      title="Unknown settings and station"
      aside={`${tries.length} pairs of settings and station, likely ones first; at most ${secondsText(longestS)}; stops at the first answer`}
    >
      <Disturbs />
      <Runner plan={plan} text="Try settings and stations together" perTryS={longestS / tries.length} />
      {found?.settings && (
        <p data-testid="everything-found">
          <strong>
            ✓ station {found.station} at {settingsText(found.settings)}
          </strong>{' '}
          answers.{' '}
          <Button variant="contained" color="secondary" onClick={() => take(found)}>
            Set this end so, and work on station {found.station}
          </Button>
        </p>
      )}
      {state && !state.running && !found && state.done > 0 && (
        <p data-testid="everything-found">
          {state.done < state.total
            ? 'Ended before all were tried.'
            : 'None of them was answered. Next: is it powered, are A and B crossed, does it speak another language? Then sweep all stations at the likeliest settings.'}
        </p>
      )}
    </Panel>
  );
}
