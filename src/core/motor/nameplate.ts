/** What stands on a motor's plate; null where it is not there or cannot be read. */
export interface Nameplate {
  readonly powerKw: number | null;
  readonly voltageV: number | null;
  readonly currentA: number | null;
  readonly frequencyHz: number | null;
  readonly speedRpm: number | null;
  readonly powerFactor: number | null;
}

/** A plate on which nothing can be read. */
export const BARE_PLATE: Nameplate = {
  powerKw: null,
  voltageV: null,
  currentA: null,
  frequencyHz: null,
  speedRpm: null,
  powerFactor: null,
};

/** A number that follows from the plate, with its working. */
export interface Worked {
  readonly value: number;
  readonly working: string;
}

export interface PlateReading {
  readonly poles: Worked | null;
  readonly synchronousRpm: Worked | null;
  /** Share of the synchronous speed. */
  readonly slip: Worked | null;
  /** Share of the electrical power that reaches the shaft. */
  readonly efficiency: Worked | null;
  readonly torqueNm: Worked | null;
  /** What cannot be as it was read, and what it may be instead. */
  readonly doubts: readonly string[];
}

/** Shares out of these tell a misread plate, not a bad motor; common practice, no source. */
const PLAUSIBLE_EFFICIENCY = { least: 0.5, most: 0.98 } as const;
const PLAUSIBLE_SLIP = { least: 0, most: 0.15 } as const;
/** One horsepower in kW (NIST SP 811, horsepower of 550 ft·lbf/s). */
const KW_A_HP = 0.7457;
const MOST_POLES = 48;

const shown = (value: number, digits = 4): string => String(Number(value.toPrecision(digits)));
const worked = (value: number, working: string): Worked => ({ value, working });

/**
 * What follows from a plate of a three-phase induction motor. Poles: the even number just below 120 f / n; slip: (120 f / poles − n) / that;
 * efficiency: P / (√3 U I cos φ); torque: P / (2π n / 60).
 */
export function readPlate(plate: Nameplate): PlateReading {
  const { powerKw, frequencyHz, speedRpm } = plate;
  const poles = polesOf(frequencyHz, speedRpm);
  const synchronous =
    poles && frequencyHz
      ? worked(
          (120 * frequencyHz) / poles.value,
          `120 × ${frequencyHz} Hz / ${poles.value} poles = ${shown((120 * frequencyHz) / poles.value)} rpm`,
        )
      : null;
  const slip =
    synchronous && speedRpm
      ? worked(
          (synchronous.value - speedRpm) / synchronous.value,
          `(${shown(synchronous.value)} − ${speedRpm}) / ${shown(synchronous.value)} = ${shown((100 * (synchronous.value - speedRpm)) / synchronous.value, 3)} %`,
        )
      : null;
  const efficiency = efficiencyOf(plate);
  const torque =
    powerKw && speedRpm
      ? worked(
          (powerKw * 1000) / ((2 * Math.PI * speedRpm) / 60),
          `${powerKw} kW / (2π × ${speedRpm} / 60) = ${shown((powerKw * 1000) / ((2 * Math.PI * speedRpm) / 60), 3)} Nm`,
        )
      : null;
  return {
    poles,
    synchronousRpm: synchronous,
    slip,
    efficiency,
    torqueNm: torque,
    doubts: [...speedDoubts(slip, frequencyHz, speedRpm), ...powerDoubts(plate, efficiency)],
  };
}

function polesOf(frequencyHz: number | null, speedRpm: number | null): Worked | null {
  if (!frequencyHz || !speedRpm) return null;
  const exact = (120 * frequencyHz) / speedRpm;
  const poles = 2 * Math.floor(exact / 2 + 1e-9);
  return poles < 2 || poles > MOST_POLES
    ? null
    : worked(poles, `120 × ${frequencyHz} Hz / ${speedRpm} rpm = ${shown(exact)}, so ${poles} poles`);
}

function efficiencyOf({ powerKw, voltageV, currentA, powerFactor }: Nameplate): Worked | null {
  if (!powerKw || !voltageV || !currentA || !powerFactor) return null;
  const electricalKw = (Math.sqrt(3) * voltageV * currentA * powerFactor) / 1000;
  return worked(
    powerKw / electricalKw,
    `${powerKw} kW / (√3 × ${voltageV} V × ${currentA} A × ${powerFactor}) = ${powerKw} / ${shown(electricalKw, 3)} = ${shown((100 * powerKw) / electricalKw, 3)} %`,
  );
}

function speedDoubts(slip: Worked | null, frequencyHz: number | null, speedRpm: number | null): readonly string[] {
  if (!frequencyHz || !speedRpm) return [];
  if (!slip) return [`${speedRpm} rpm at ${frequencyHz} Hz is no speed of an induction motor`];
  if (slip.value <= PLAUSIBLE_SLIP.least)
    return [`${speedRpm} rpm is the synchronous speed itself: a synchronous motor, or a misread speed`];
  if (slip.value <= PLAUSIBLE_SLIP.most) return [];
  const other = frequencyHz === 50 ? 60 : 50;
  const at = readPlate({ ...BARE_PLATE, frequencyHz: other, speedRpm }).slip;
  const hint =
    at && at.value > PLAUSIBLE_SLIP.least && at.value < PLAUSIBLE_SLIP.most
      ? `; at ${other} Hz it would be ${shown(100 * at.value, 2)} %`
      : '';
  return [
    `a slip of ${shown(100 * slip.value, 3)} % is more than such a motor has: speed or frequency is misread${hint}`,
  ];
}

/** Ways in which plates are misread, by what they do to the efficiency. */
const MISREADINGS: readonly (readonly [times: number, what: string])[] = [
  [Math.sqrt(3), 'the current or the voltage of the other connection, star or delta, was read'],
  [1 / Math.sqrt(3), 'the current or the voltage of the other connection, star or delta, was read'],
  [KW_A_HP, 'the power is in hp'],
  [1 / KW_A_HP, 'the power was turned from kW into hp'],
  [10, 'a decimal point of the current or power slipped'],
  [0.1, 'a decimal point of the current or power slipped'],
];

function powerDoubts({ powerFactor }: Nameplate, efficiency: Worked | null): readonly string[] {
  if (powerFactor !== null && (powerFactor <= 0.2 || powerFactor > 1))
    return [`a power factor of ${powerFactor} is none`];
  if (!efficiency) return [];
  const isPlausible = (share: number): boolean =>
    share >= PLAUSIBLE_EFFICIENCY.least && share <= PLAUSIBLE_EFFICIENCY.most;
  if (isPlausible(efficiency.value)) return [];
  const likely = [
    ...new Set(
      MISREADINGS.flatMap(([times, what]) =>
        isPlausible(efficiency.value * times) && efficiency.value * times > 0.6 ? [what] : [],
      ),
    ),
  ];
  return [
    `an efficiency of ${shown(100 * efficiency.value, 3)} % cannot be${likely.length > 0 ? `: perhaps ${likely.join(', or ')}` : ': one of power, voltage, current and power factor is misread'}`,
  ];
}
