/** An object of CiA 402 that goes round, with its type. */
export interface MappedObject {
  /** Index in hex, as people write it: `6040`. */
  readonly object: string;
  readonly name: string;
  readonly type: 'int8' | 'int16' | 'int32' | 'uint16' | 'uint32';
}

const object = (index: string, name: string, type: MappedObject['type']): MappedObject => ({
  object: index,
  name,
  type,
});

const CONTROL = object('6040', 'control word', 'uint16');
const STATUS = object('6041', 'status word', 'uint16');

/** One pair of process data objects: what goes to the drive, and what comes from it. */
export interface Mapping {
  readonly number: number;
  readonly what: string;
  readonly out: readonly MappedObject[];
  readonly in: readonly MappedObject[];
}

/**
 * The mappings that CiA 402 (IEC 61800-7-301) sets out for the process data objects 1 to 7 of a drive, from memory of the published tables. Over CANopen
 * and EtherCAT the low byte of each value comes first.
 */
export const MAPPINGS: readonly Mapping[] = [
  { number: 1, what: 'the words alone', out: [CONTROL], in: [STATUS] },
  {
    number: 2,
    what: 'mode of operation',
    out: [CONTROL, object('6060', 'modes of operation', 'int8')],
    in: [STATUS, object('6061', 'modes of operation display', 'int8')],
  },
  {
    number: 3,
    what: 'position',
    out: [CONTROL, object('607A', 'target position', 'int32')],
    in: [STATUS, object('6064', 'position actual value', 'int32')],
  },
  {
    number: 4,
    what: 'velocity',
    out: [CONTROL, object('60FF', 'target velocity', 'int32')],
    in: [STATUS, object('606C', 'velocity actual value', 'int32')],
  },
  {
    number: 5,
    what: 'torque',
    out: [CONTROL, object('6071', 'target torque', 'int16')],
    in: [STATUS, object('6077', 'torque actual value', 'int16')],
  },
  {
    number: 6,
    what: 'speed of a frequency converter',
    out: [CONTROL, object('6042', 'vl target velocity', 'int16')],
    in: [STATUS, object('6044', 'vl velocity actual value', 'int16')],
  },
  {
    number: 7,
    what: 'digital signals',
    out: [CONTROL, object('60FE', 'digital outputs', 'uint32')],
    in: [STATUS, object('60FD', 'digital inputs', 'uint32')],
  },
];
