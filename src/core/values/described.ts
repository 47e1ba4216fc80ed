import type { ModbusTable } from '../registers/tables';
import type { ValueType } from './type';

/** A parameter as a manual's table or a device description tells it. Null is what it does not say: nothing here is assumed. */
export interface DescribedParameter {
  /** How it is addressed, as printed: `40107`, `P1.02`, `0x2003:01`. */
  readonly key: string;
  /** Counted from 0; null where it is no address of Modbus or cannot be told. */
  readonly address: number | null;
  readonly table: ModbusTable | null;
  readonly name: string;
  readonly type: ValueType | null;
  readonly bits: number | null;
  readonly unit: string | null;
  /** Value of one count in the unit, as a fraction in lowest terms. */
  readonly scale: string | null;
  /** Limits and default in the unit, as decimals. */
  readonly min: string | null;
  readonly max: string | null;
  readonly default: string | null;
  readonly access: 'read' | 'read-write' | 'write' | null;
  readonly when: 'always' | 'standstill' | null;
  readonly choices: readonly Choice[];
  readonly bitNames: readonly BitName[];
}

export interface Choice {
  readonly value: number;
  readonly text: string;
}

export interface BitName {
  readonly bit: number;
  readonly text: string;
}
