import type { ModbusFraming } from '../core/modbus/framing';
import type { PlacedParameter } from '../core/sheet/index-sheet';

/** The request that writes one parameter; null where the standard does not allow it. */
export function writeRequest(
  framing: ModbusFraming,
  station: number,
  parameter: PlacedParameter,
  word: number,
): Uint8Array | null {
  const built = framing.encode({ unit: station, fc: 6, address: parameter.address, values: [word] }, 'request');
  return built.ok ? built.value : null;
}
