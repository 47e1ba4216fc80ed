/** How many words the parameter channel has: none, 3 (words only), 4 (double words), or more where it is variable. */
export interface UssMessage {
  /** Station, 0 to 31. */
  readonly address: number;
  /** The station returns the same bytes: the echo test of the line. */
  readonly mirror: boolean;
  readonly broadcast: boolean;
  /** Net data of another form than parameter channel and process data. */
  readonly special: boolean;
  readonly pkwWords: number;
  /** The first word of the parameter channel, and its parts: task or response id, change report bit, parameter number 0 to 2047. */
  readonly pke?: number;
  readonly ak?: number;
  readonly spm?: boolean;
  readonly pnu?: number;
  readonly ind?: number;
  /** Value words, high word first. */
  readonly pwe?: readonly number[];
  /** Process data: control or status word first, then reference or actual value. */
  readonly pzd?: readonly number[];
  /** Net data of a special telegram. */
  readonly dataHex?: string;
}

/** The PKE word: task or response in bits 15 to 12, spontaneous message in bit 11, parameter number below. */
export const pkeOf = (ak: number, spm: boolean, pnu: number): number => (ak << 12) | (spm ? 0x800 : 0) | pnu;
