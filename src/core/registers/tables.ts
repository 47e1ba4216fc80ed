/** The four tables of the Modbus data model (Modbus Application Protocol V1.1b3, section 4.3). */
export type ModbusTable = 'coil' | 'discrete-input' | 'input-register' | 'holding-register';

export const TABLE_NAMES: Readonly<Record<ModbusTable, string>> = {
  coil: 'coil',
  'discrete-input': 'discrete input',
  'input-register': 'input register',
  'holding-register': 'holding register',
};
