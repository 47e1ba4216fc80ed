import type { ModbusFraming } from '../core/modbus/framing';
import { planReads } from '../core/registers/plan-reads';
import { identityOf } from '../core/sheet/identity';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';

/** What must be read to know how a drive stands and why it does or does not run. Registers of several groups, in as few reads as can be. */
const WATCHED: readonly ParameterRole[] = [
  'fault-code',
  'status-word',
  'torque',
  'current',
  'actual-speed',
  'control-word',
  'ramp-time',
  'speed-reference',
  'minimum-speed',
  'maximum-speed',
  'command-source',
  'reference-source',
  'selector',
  'watchdog-time',
  'watchdog-action',
];

/** Read requests only; nothing here can move a shaft. */
export function watchReads(station: number, index: SheetIndex, framing: ModbusFraming): readonly Uint8Array[] {
  const wanted = WATCHED.flatMap((role) => index.byRole.get(role)?.address ?? []);
  return planReads(wanted, (address) => index.byAddress.has(address)).flatMap(({ address, quantity }) => {
    const built = framing.encode({ unit: station, fc: 3, address, quantity }, 'request');
    return built.ok ? [built.value] : [];
  });
}

/** Reads of what tells this drive from another; done with a reading by hand, for it does not change. */
export function identityReads(station: number, index: SheetIndex, framing: ModbusFraming): readonly Uint8Array[] {
  const addresses = identityOf(index, () => undefined).map(({ parameter }) => parameter.address);
  return planReads(addresses, (address) => index.byAddress.has(address)).flatMap(({ address, quantity }) => {
    const built = framing.encode({ unit: station, fc: 3, address, quantity }, 'request');
    return built.ok ? [built.value] : [];
  });
}
