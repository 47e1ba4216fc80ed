/** A reply that a station should give: bytes that are known, and null where nobody can know them yet. */
export interface ExpectedReply {
  readonly bytes: readonly (number | null)[];
  readonly text: string;
}
