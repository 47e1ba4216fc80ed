import { addressOf, type WorkedAddress } from '../registers/address';
import type { Parameter, ParameterRole } from './parameter-section';
import type { Sheet } from './sheet';

/** A parameter with the register that the sheet's rule gives it. */
export interface PlacedParameter extends Parameter {
  readonly address: number;
  readonly working: string;
}

/** A sheet ready for look-ups by register, number and role. Parameters that the rule cannot place are left out (`checkSheet` names them). */
export interface SheetIndex {
  readonly sheet: Sheet;
  readonly parameters: readonly PlacedParameter[];
  readonly byAddress: ReadonlyMap<number, PlacedParameter>;
  readonly byNumber: ReadonlyMap<string, PlacedParameter>;
  readonly byRole: ReadonlyMap<ParameterRole, PlacedParameter>;
}

export function indexSheet(sheet: Sheet): SheetIndex {
  const parameters = (sheet.parameters ?? []).flatMap((parameter): PlacedParameter[] => {
    const placed: WorkedAddress | null = sheet.addressRule ? addressOf(sheet.addressRule, parameter.number) : null;
    return placed ? [{ ...parameter, ...placed }] : [];
  });
  return {
    sheet,
    parameters,
    byAddress: new Map(parameters.map((parameter) => [parameter.address, parameter])),
    byNumber: new Map(parameters.map((parameter) => [parameter.number, parameter])),
    byRole: new Map(parameters.flatMap((parameter) => (parameter.role ? [[parameter.role, parameter] as const] : []))),
  };
}
