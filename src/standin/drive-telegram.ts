/** What a drive says of itself in its process data; speeds are shares of its full scale, ways of its encoder are turns. */
export interface ToldByDrive {
  readonly status: number;
  readonly speed: number;
  readonly turns: number;
  /** The words that came from the controller. */
  readonly asked: readonly number[];
  /** How many telegrams came before this one. */
  readonly beat: number;
}

/** One layout of the process data as the drive's own half has it (from memory of the published tables); it shares none with the core. */
export interface DriveTelegram {
  readonly words: number;
  /** The main set-point as a share of the full scale. */
  readonly wanted: (asked: readonly number[]) => number;
  readonly back: (told: ToldByDrive) => readonly number[];
}

const N2 = 0x4000;
const N4 = 0x4000_0000;
const COUNTS_A_TURN = 8192;
/** Both of the encoder's words: the absolute position in each cycle, and parked. */
const ABSOLUTE = 0x2000;
const PARKED = 0x4000;

const signed = (value: number, bits: 16 | 32): number => (value >= 2 ** (bits - 1) ? value - 2 ** bits : value);

/** Counts of a speed; one that turns is never told as 0. */
function counts(speed: number, full: number, bits: 16 | 32): number {
  const nearest = Math.round(speed * full);
  const told = nearest === 0 ? Math.sign(speed) : nearest;
  return told < 0 ? told + 2 ** bits : told;
}

const halves = (value: number): readonly [number, number] => [Math.floor(value / 65_536) % 65_536, value % 65_536];

/** Control word and set-point of 16 bits, whatever else there is room for. */
export const plainTelegram = (words: number): DriveTelegram => ({
  words,
  wanted: (asked) => signed(asked[1] ?? 0, 16) / N2,
  back: ({ status, speed }) =>
    [status, counts(speed, N2, 16), ...new Array<number>(Math.max(words - 2, 0)).fill(0)].slice(0, words),
});

/** The telegrams that can be chosen at the drive, by number. */
export const DRIVE_TELEGRAMS: ReadonlyMap<number, DriveTelegram> = new Map([
  [1, plainTelegram(2)],
  [
    3,
    {
      words: 9,
      wanted: (asked) => signed((asked[1] ?? 0) * 65_536 + (asked[2] ?? 0), 32) / N4,
      back: ({ status, speed, turns, asked, beat }) => {
        const [lifeSign = 0, encoder = 0] = asked.slice(3);
        const isParked = (encoder & PARKED) !== 0;
        const position = ((Math.round(turns * COUNTS_A_TURN) % 2 ** 32) + 2 ** 32) % 2 ** 32;
        const isAbsolute = (encoder & ABSOLUTE) !== 0 && !isParked;
        return [
          status,
          ...halves(counts(speed, N4, 32)),
          // Its own sign of life goes through 1 to 15 while the controller gives one.
          lifeSign >= 0x1000 ? (1 + (beat % 15)) * 0x1000 : 0,
          (isAbsolute ? ABSOLUTE : 0) + (isParked ? PARKED : 0),
          ...halves(isParked ? 0 : position),
          ...halves(isAbsolute ? position : 0),
        ];
      },
    },
  ],
]);
