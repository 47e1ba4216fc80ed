import { settingsText } from '../line/settings';
import { PROTOCOL_TEXT, type JobLine } from './job';

/** Where bits go one behind the other; Modbus TCP has no rate and no form. */
export const hasSerialSettings = ({ protocol }: Pick<JobLine, 'protocol'>): boolean => protocol !== 'modbus-tcp';

/** `RS-485 · 19200 8E1 · Modbus RTU`; over Ethernet without settings that it does not have. */
export const lineText = (line: JobLine): string =>
  [line.medium, hasSerialSettings(line) && line.serial && settingsText(line.serial), PROTOCOL_TEXT[line.protocol]]
    .filter(Boolean)
    .join(' · ');
