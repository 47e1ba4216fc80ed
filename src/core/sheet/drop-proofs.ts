import type { Sheet } from './sheet';

/** The sheet after its address rule changed: a proof is one of a place, so entries that the rule places are not proved any more. */
export function withoutProofsByRule(sheet: Sheet): Sheet {
  if (!sheet.parameters) return sheet;
  return {
    ...sheet,
    parameters: sheet.parameters.map((parameter) => {
      if (parameter.at || !parameter.proof) return parameter;
      const bare = { ...parameter };
      delete bare.proof;
      return bare;
    }),
  };
}
