import { encodeRtu } from '../../core/modbus/encode';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';

/** The request that writes one parameter; null where the standard does not allow it. */
export function writeRequest(station: number, parameter: PlacedParameter, word: number): Uint8Array | null {
  const built = encodeRtu({ unit: station, fc: 6, address: parameter.address, values: [word] }, 'request');
  return built.ok ? built.value : null;
}

/** The reads that keep Words alive: the status block, and the registers that decide whether a run word turns the shaft. */
export function watchRequests(station: number, index: SheetIndex): readonly Uint8Array[] {
  const place = (role: Parameters<typeof index.byRole.get>[0]): number | undefined => index.byRole.get(role)?.address;
  const status = place('status-word');
  const speed = place('actual-speed');
  const control = place('control-word');
  const least = place('minimum-speed');
  const read = (address: number | undefined, last: number | undefined): Uint8Array[] => {
    if (address === undefined) return [];
    const quantity = last !== undefined && last >= address && last - address < 30 ? last - address + 1 : 1;
    const built = encodeRtu({ unit: station, fc: 3, address, quantity }, 'request');
    return built.ok ? [built.value] : [];
  };
  const source = place('command-source');
  return [...read(status, speed), ...read(control, least), ...read(source, place('selector'))];
}
