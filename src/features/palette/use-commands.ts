'use client';

import { useColorScheme } from '@mui/material/styles';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { goTo } from '../../bench/hooks/go-to';
import { SIDE_PLACES, STAGES } from '../../bench/state/stages';
import { useCurrent } from '../../bench/hooks/use-current';
import { useWatch } from '../../bench/hooks/use-watch';
import { hexNumber } from '../../core/bytes/hex';

export interface PaletteCommand {
  readonly group: string;
  readonly text: string;
  readonly keys?: string;
  readonly run: () => void;
}

/** Every command of the bench by its name. None of them sends a word that turns a shaft: those are set up here and sent by their own press. */
export function useCommands(showKeys: () => void): readonly PaletteCommand[] {
  return [
    ...useStopCommands(),
    ...useStageCommands(),
    ...useLineCommands(),
    ...useLinePartCommands(),
    ...useDriveCommands(),
    ...useFileCommands(),
    ...useViewCommands(showKeys),
  ];
}

function useStopCommands(): readonly PaletteCommand[] {
  const bench = useBench();
  return [
    { group: 'Stop', text: 'Stop every drive that this bench set in motion', keys: 'Ctrl .', run: bench.stop },
    { group: 'Stop', text: 'Put the outcome of Stop away', run: bench.dismissStop },
  ];
}

function useStageCommands(): readonly PaletteCommand[] {
  return STAGES.map(({ name, path }, i) => ({
    group: 'Stages',
    text: `Go to ${name}`,
    keys: `${i + 1}`,
    run: () => goTo(path),
  })).concat(
    SIDE_PLACES.map(({ name, path }) => ({ group: 'Stages', text: `Go to ${name}`, keys: '', run: () => goTo(path) })),
  );
}

function useLineCommands(): readonly PaletteCommand[] {
  const bench = useBench();
  const job = useBenchState((state) => state.job);
  const lines = useBenchState((state) => state.lines);
  return (job?.lines ?? [])
    .filter(({ far }) => far !== 'not-built')
    .flatMap(({ id, name, stations }): PaletteCommand[] => [
      lines.get(id)?.open
        ? { group: 'Lines', text: `Close ${name}`, run: () => bench.close(id) }
        : { group: 'Lines', text: `Open ${name}, sends nothing`, run: () => bench.open(id) },
      ...stations.map((station) => ({
        group: 'Lines',
        text: `Work on ${station.station} · ${station.name}`,
        run: () => bench.select(id, station.station),
      })),
    ]);
}

/** The parts of the Line stage by name; the table of the parts themselves comes only with the stage. */
const LINE_PARTS = {
  ends: 'Both ends of the line',
  doctor: 'Ask the doctor why the line fails',
  sweep: 'Sweep for settings, stations or addresses',
  time: 'Time of an exchange and cycle budget',
  keypad: 'Keypad card',
  cable: 'Cable',
  ip: 'Addresses',
  terminal: 'Terminal',
} as const;

function useLinePartCommands(): readonly PaletteCommand[] {
  const setLinePart = useDrafts((drafts) => drafts.setLinePart);
  return Object.entries(LINE_PARTS).map(([id, text]) => ({
    group: 'Line',
    text,
    run: () => {
      setLinePart(id);
      goTo('/line');
    },
  }));
}

function useDriveCommands(): readonly PaletteCommand[] {
  const bench = useBench();
  const { key, name, index, isOpen } = useCurrent();
  const watch = useWatch('palette');
  const drafts = bench.drafts.getState();
  const words = (index?.commands ?? []).map((command) => ({
    group: 'Control word',
    text: `Set up ${hexNumber(command.word)} ${command.name} for ${name}, not sent yet`,
    run: () => {
      drafts.setWord(key, command.word);
      goTo('/words');
    },
  }));
  const reads: readonly PaletteCommand[] = isOpen
    ? [
        { group: 'Reading', text: `Read ${name} once`, run: watch.readOnce },
        { group: 'Reading', text: watch.watching ? 'End the watch' : `Watch ${name}`, run: watch.toggle },
      ]
    : [];
  return [
    ...reads,
    ...words,
    { group: 'Frames', text: 'Undo the last edit of the frame', keys: 'Ctrl Z', run: () => drafts.undoFrame(key) },
    { group: 'Frames', text: 'Redo the edit of the frame', keys: 'Ctrl Y', run: () => drafts.redoFrame(key) },
  ];
}

const SIZES = {
  last: 'Fold the trace to its last entry',
  rows: 'Show a few rows of the trace',
  tall: 'Enlarge the trace',
} as const;
const MODES = {
  light: 'Bench paper, the light theme',
  dark: 'Night shift, the dark theme',
  system: 'Theme as the system has it',
} as const;

function useFileCommands(): readonly PaletteCommand[] {
  const { jobs } = useBench();
  const all = useBenchState((state) => state.jobs);
  const open = useBenchState((state) => state.job);
  const ofOpen: readonly PaletteCommand[] = open
    ? [
        { group: 'Files', text: `Export ${open.name} as a job file`, run: () => jobs.exportJob(open) },
        { group: 'Files', text: 'Export the trace as CSV', run: () => jobs.exportTrace(open, 'csv') },
        { group: 'Files', text: 'Export the trace as JSON Lines', run: () => jobs.exportTrace(open, 'jsonl') },
        { group: 'Files', text: `Copy the job ${open.name}`, run: () => jobs.copy(open) },
      ]
    : [];
  const others = all
    .filter(({ id }) => id !== open?.id)
    .map((job) => ({ group: 'Files', text: `Open the job ${job.name}`, run: () => jobs.open(job) }));
  return [...ofOpen, ...others];
}

function useViewCommands(showKeys: () => void): readonly PaletteCommand[] {
  const bench = useBench();
  const { setMode } = useColorScheme();
  const setTraceSize = useDrafts((drafts) => drafts.setTraceSize);
  const entriesOf = <Key extends string>(table: Readonly<Record<Key, string>>): readonly (readonly [Key, string])[] =>
    Object.entries(table) as [Key, string][];
  return [
    ...entriesOf(SIZES).map(([size, text]) => ({ group: 'Trace', text, run: () => setTraceSize(size) })),
    ...entriesOf(MODES).map(([mode, text]) => ({ group: 'Look', text, run: () => setMode(mode) })),
    ...[1, 10].map((factor) => ({
      group: 'Stand-in yard',
      text: `Time in the yard × ${factor}`,
      run: () => bench.post({ kind: 'yard-speed', factor }),
    })),
    { group: 'Help', text: 'Show the keyboard map', keys: '?', run: showKeys },
  ];
}
