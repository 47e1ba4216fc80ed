/** The words of a standard profile that end a run, by the profile's own description (from memory). */
const STOPS: Readonly<Record<string, readonly number[]>> = {
  cia402: [0x0007, 0x0006],
  profidrive: [0x047e],
};

/** The stop words that a kind of profile proposes; undefined where it has none that every drive of it stops at. */
export const standardStop = (profile: string | undefined): readonly number[] | undefined =>
  profile === undefined ? undefined : STOPS[profile];
