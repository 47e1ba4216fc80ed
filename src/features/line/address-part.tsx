'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { checkIpPlan, type IpNote } from '../../core/line/check-ip-plan';
import type { IpField, IpHost } from '../../core/line/ip-plan';
import { ipv4Facts, parseIpv4, parsePrefix } from '../../core/line/ipv4';
import { ChoiceField, TypedField } from '../../ui/fields';
import { NameField } from '../../ui/name-field';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';

const ROLES = ['laptop', 'drive', 'gateway', 'device server'] as const;
const NEW_LAPTOP: IpHost = { role: 'laptop', name: 'laptop', address: '172.22.7.5', mask: '24' };
const NEW_HOST: IpHost = { role: 'drive', name: 'drive', address: '', mask: '24' };
const MARK = { fault: '✗', warning: '!', good: '✓' } as const;

/** Addresses of the laptop and the devices: one subnet or not and why, and what is wrong with each field. */
export function AddressPart() {
  const bench = useBench();
  const plan = useBenchState((state) => state.job?.ipPlan ?? null);
  const put = (ipPlan: readonly IpHost[]): void => void bench.changeJob((job) => ({ ...job, ipPlan: [...ipPlan] }));
  const hosts = plan ?? [];
  const notes = checkIpPlan(hosts);
  const bad = notes.filter(({ weight }) => weight === 'fault').length;
  return (
    <Panel
      title="Addresses"
      aside={hosts.length === 0 ? 'no device is listed yet' : bad === 0 ? '✓ nothing wrong' : `✗ ${bad} wrong`}
      tools={
        <Button
          variant="text"
          color="inherit"
          onClick={() => put([...hosts, hosts.length === 0 ? NEW_LAPTOP : NEW_HOST])}
        >
          {hosts.length === 0 ? 'Begin with this laptop' : 'Add a device'}
        </Button>
      }
    >
      {hosts.length === 0 && (
        <p>Write the addresses down as the displays show them; what does not fit together is named at its field.</p>
      )}
      <div className={styles.stack} style={{ gap: 14 }}>
        {hosts.map((host, i) => (
          <HostRow
            key={i}
            host={host}
            notes={notes.filter((note) => note.host === i)}
            onChange={(change) => put(hosts.map((own, k) => (k === i ? { ...own, ...change } : own)))}
            onRemove={() => put(hosts.filter((_, k) => k !== i))}
          />
        ))}
      </div>
    </Panel>
  );
}

interface HostProps {
  readonly host: IpHost;
  readonly notes: readonly IpNote[];
  readonly onChange: (change: Partial<IpHost>) => void;
  readonly onRemove: () => void;
}

function HostRow({ host, notes, onChange, onRemove }: HostProps) {
  const at = (field: IpField): string =>
    notes
      .filter((note) => note.field === field && note.weight === 'fault')
      .map(({ text }) => text)
      .join('; ');
  const told = notes.filter(({ weight }) => weight !== 'fault');
  return (
    <div role="group" aria-label={host.name}>
      <div className={styles.row}>
        <ChoiceField
          label="role"
          value={host.role}
          width={136}
          options={ROLES.map((role) => [role, role] as const)}
          onChange={(role) => onChange({ role: role as IpHost['role'] })}
        />
        <NameField label="name" value={host.name} width={136} onName={(name) => onChange({ name })} />
        <TypedField
          label="address"
          value={host.address}
          width={132}
          error={at('address')}
          onChange={(address) => onChange({ address })}
        />
        <TypedField
          label="prefix or mask"
          value={host.mask}
          width={120}
          error={at('mask')}
          onChange={(mask) => onChange({ mask })}
        />
        <TypedField
          label="gateway"
          value={host.gateway ?? ''}
          width={112}
          error={at('gateway')}
          onChange={(gateway) => onChange({ gateway })}
        />
        {host.role !== 'laptop' && (
          <>
            <TypedField
              label="port"
              value={host.port ?? ''}
              width={66}
              error={at('port')}
              onChange={(port) => onChange({ port })}
            />
            <TypedField
              label="expected master"
              value={host.master ?? ''}
              width={112}
              error={at('master')}
              onChange={(master) => onChange({ master })}
            />
            <TypedField
              label="time-out, ms"
              value={host.timeoutMs ?? ''}
              width={88}
              error={at('timeoutMs')}
              onChange={(timeoutMs) => onChange({ timeoutMs })}
            />
          </>
        )}
        <Button variant="text" color="inherit" onClick={onRemove}>
          Remove
        </Button>
      </div>
      <div className={styles.soft}>
        {factsOf(host)}
        {told.map(({ weight, text }) => (
          <span key={text} className={weight === 'good' ? styles.good : styles.warn}>
            {' '}
            · {MARK[weight]} {text}
          </span>
        ))}
      </div>
    </div>
  );
}

function factsOf({ address, mask }: IpHost): string {
  const [parsed, prefix] = [parseIpv4(address), parsePrefix(mask)];
  if (!parsed.ok || !prefix.ok) return '';
  const { network, firstHost, lastHost, broadcast } = ipv4Facts({ address: parsed.value, prefix: prefix.value });
  return `${network}/${prefix.value}: hosts ${firstHost} to ${lastHost}, broadcast ${broadcast}`;
}
