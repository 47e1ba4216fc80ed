import type { ControlRole, StatusRole } from '../words/spec';
import type { ParameterRole } from './parameter-section';

/** Words by which names tell a role, in English, German and French; the first rule that fits decides. Common practice, no source. */
const PARAMETERS: readonly (readonly [ParameterRole, RegExp])[] = [
  ['control-word', /\b(?:control|command) ?(?:word|register)\b|steuerwort|mot de commande|kommandowort/i],
  ['status-word', /\b(?:status|state) ?(?:word|register)\b|statuswort|zustandswort|mot d['’][ée]tat/i],
  ['fault-code', /\b(?:fault|error|alarm|trip) ?(?:code|number|no\b)|fehler(?:code|nummer)|code (?:de )?d[ée]faut/i],
  [
    'actual-speed',
    /\b(?:actual|output|measured|present|real) (?:speed|frequency|velocity)\b|ist(?:drehzahl|frequenz)|vitesse (?:r[ée]elle|mesur[ée]e)|fr[ée]quence de sortie/i,
  ],
  [
    'speed-reference',
    /\b(?:speed|frequency|velocity) ?(?:reference|set ?point|command|target|set)\b|\b(?:target|set|reference) (?:speed|frequency|velocity)\b|soll(?:drehzahl|frequenz|wert)|consigne (?:de )?(?:vitesse|fr[ée]quence)/i,
  ],
  ['minimum-speed', /\b(?:min(?:imum)?|lowest) (?:speed|frequency)\b|mindest(?:drehzahl|frequenz)|vitesse min/i],
  [
    'maximum-speed',
    /\b(?:max(?:imum)?|highest) (?:speed|frequency)\b|h[öo]chst(?:drehzahl|frequenz)|maximal(?:drehzahl|frequenz)|vitesse max/i,
  ],
  [
    'ramp-time',
    /\b(?:ramp(?: up)?|acceleration) time\b|\btime of ramp\b|hochlauf(?:zeit)?|rampe auf|temps d['’]acc[ée]l[ée]ration/i,
  ],
  ['jog-speed', /\bjog (?:speed|frequency)\b|tippdrehzahl|tippfrequenz/i],
  ['command-source', /\b(?:command|run|control) source\b|befehlsquelle|source de commande/i],
  ['reference-source', /\b(?:reference|speed|frequency) source\b|sollwertquelle|source de consigne/i],
  [
    'watchdog-time',
    /\b(?:watchdog|communication|link|bus|network) ?(?:time ?-?out|watchdog)? ?time\b|\b(?:communication|link|bus) time-?out\b|[üu]berwachungszeit/i,
  ],
  ['target-position', /\btarget position\b|sollposition|position (?:cible|de consigne)/i],
  ['actual-position', /\b(?:actual|present|current) position\b|istposition|position r[ée]elle/i],
  ['current', /\b(?:output|motor) current\b|(?:ausgangs|motor)strom|courant (?:de sortie|moteur)/i],
  ['torque', /\b(?:actual|motor|output) torque\b|drehmoment|couple/i],
  ['motor-poles', /\b(?:motor )?poles?\b|polzahl/i],
];
const CONTROL: readonly (readonly [ControlRole, RegExp])[] = [
  ['fault-reset', /reset|acknowledge|quittier|acquit/i],
  ['reverse', /revers|backward|direction|r[üu]ckw|inverse|arri[èe]re/i],
  ['jog', /\bjog|tipp/i],
  ['stop', /\bstop\b|halt\b|arr[êe]t/i],
  ['enable', /enable|freigabe|valid/i],
  ['run', /\brun\b|start|forward|marche|betrieb|ein\b/i],
];
const STATUS: readonly (readonly [StatusRole, RegExp])[] = [
  ['fault', /fault|error|trip|st[öo]rung|fehler|d[ée]faut/i],
  ['warning', /warn|alarm|alerte/i],
  ['at-speed', /at (?:speed|reference|set)|reached|erreicht|atteint/i],
  ['backward', /backward|revers|r[üu]ckw|arri[èe]re/i],
  ['remote', /remote|fern|distance/i],
  ['turning', /running|turning|in motion|moving|l[äa]uft|dreht|en marche|rotation/i],
  ['enabled', /enabled|in operation|freigegeben/i],
  ['ready', /ready|bereit|pr[êe]t/i],
];

const first = <Role>(rules: readonly (readonly [Role, RegExp])[], name: string): Role | undefined =>
  rules.find(([, form]) => form.test(name))?.[0];

/** What a name most likely stands for; undefined where it says nothing. A proposal only: whoever takes it must look at it. */
export const proposedRole = (name: string): ParameterRole | undefined => first(PARAMETERS, name);
/** The role that the name of a control bit speaks for, if any. */
export const proposedControlRole = (name: string): ControlRole | undefined => first(CONTROL, name);
/** The role that the name of a status bit speaks for, if any. */
export const proposedStatusRole = (name: string): StatusRole | undefined => first(STATUS, name);
