import { useEffect } from 'react';
import type { Bench } from '../bench';
import { useBench, useBenchState } from '../bench-context';
import { forThisBench } from '../state/for-this-bench';
import { begin } from '../state/undo';
import { messageOf } from '../../core/message-of';
import { registersStore } from './registers-store';

const byId = <Row extends { readonly id: string }>(rows: readonly Row[]): readonly (readonly [string, Row])[] =>
  rows.map((row) => [row.id, row] as const);

/** Reads what this browser keeps of the open job, once; from then on plans are kept as they change. */
export function useKeptSets(): void {
  const bench = useBench();
  const job = useBenchState((state) => state.job?.id ?? '');
  useEffect(() => {
    forThisBench('plans', bench, () => keepPlans(bench));
    if (job === '' || registersStore.getState().job === job) return;
    registersStore.setState({ job, sets: new Map(), writings: new Map(), plans: new Map() });
    bench.sets.of(job).then(
      ({ sets, writings, plans }) =>
        registersStore.setState((state) =>
          state.job === job
            ? {
                sets: new Map([...byId(sets), ...state.sets]),
                writings: new Map([...byId(writings), ...state.writings]),
                plans: new Map([...plans.map(({ drive, plan }) => [drive, begin(plan)] as const), ...state.plans]),
              }
            : {},
        ),
      (error: unknown) =>
        bench.state.setState({ refused: `what is kept of this job’s values was not read: ${messageOf(error)}` }),
    );
  }, [bench, job]);
}

/** Keeps each plan that changes: a writing takes out of it what is proved, whichever view is looked at. */
const keepPlans = (bench: Bench): (() => void) =>
  registersStore.subscribe(({ plans, job }, before) => {
    if (plans === before.plans || job !== before.job) return;
    for (const [drive, { present }] of plans)
      if (before.plans.get(drive)?.present !== present)
        bench.sets.keepPlan({ drive, job, plan: present }).catch((error: unknown) =>
          bench.state.setState({
            refused: `the plan is not kept over a reload, this browser does not store it: ${messageOf(error)}`,
          }),
        );
  });
