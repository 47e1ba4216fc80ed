/**
 * The look's colours by what they mean: copper is what the user sends, verdigris what comes back, brass asks for attention, alarm is Stop
 * and faults. Never colour alone: an arrow, a mark or a word says the same.
 */
export interface BenchTokens {
  readonly paper: string;
  readonly sheet: string;
  readonly byte: string;
  readonly grid: string;
  readonly rule: string;
  readonly ink: string;
  readonly softInk: string;
  readonly copper: string;
  readonly onCopper: string;
  readonly copperWash: string;
  readonly verdigris: string;
  readonly verdigrisWash: string;
  readonly brass: string;
  readonly brassWash: string;
  readonly alarm: string;
  readonly onAlarm: string;
  /** Words that tell a fault; alarm itself is a ground for white words. */
  readonly fault: string;
}

export const BENCH_PAPER: BenchTokens = {
  paper: '#f5f0e6',
  sheet: '#fbf8f1',
  byte: '#ffffff',
  grid: '#e6ddcc',
  rule: '#cfc4b0',
  ink: '#1f2a30',
  softInk: '#5c6468',
  copper: '#a8481f',
  onCopper: '#ffffff',
  copperWash: '#f3dfd2',
  verdigris: '#1f6f66',
  verdigrisWash: '#d5e8e2',
  brass: '#7a570c',
  brassWash: '#f2e4bf',
  alarm: '#9c1f2b',
  onAlarm: '#ffffff',
  fault: '#9c1f2b',
};

export const NIGHT_SHIFT: BenchTokens = {
  paper: '#171c1f',
  sheet: '#1f2528',
  byte: '#12171a',
  grid: '#252c30',
  rule: '#46525a',
  ink: '#ece5d6',
  softInk: '#a7afae',
  copper: '#e8986c',
  onCopper: '#23130a',
  copperWash: '#43291b',
  verdigris: '#71c5b7',
  verdigrisWash: '#1c3a36',
  brass: '#dcb763',
  brassWash: '#3b3119',
  alarm: '#c23a47',
  onAlarm: '#ffffff',
  fault: '#f0929b',
};

export const TEXT_FACE = "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif";
export const MONO_FACE = "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace";
