/** What a column of a pasted table may hold. */
export const COLUMN_ROLES = [
  'number',
  'address',
  'table',
  'name',
  'type',
  'size',
  'unit',
  'scale',
  'decimals',
  'range',
  'min',
  'max',
  'default',
  'access',
  'when',
  'changed-while-running',
  'choices',
  'bit',
  'value',
  'note',
  'ignored',
] as const;
export type ColumnRole = (typeof COLUMN_ROLES)[number];

/** What a heading says beside its role. */
export interface Heading {
  readonly role: ColumnRole;
  /** `Max [Hz]`: every number of the column is in this unit. */
  readonly inside: string;
  readonly words: string;
}

const fold = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/ß/g, 'ss')
    .toLowerCase()
    .replace(/[.:*†‡¹²³_]+/g, ' ')
    .replace(/-\s*(?=$|\s)/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/**
 * Words of headings in English, German and French, accents and capitals aside; the first rule that fits the whole heading decides.
 * Common practice of manuals, no source.
 */
const WORDS: readonly (readonly [ColumnRole, RegExp])[] = [
  ['bit', /^(?:bits?|bit (?:no|nr|number|position|num)|numero de bit|bitnummer)$/],
  [
    'table',
    /^(?:table|register type|object type|registertyp|type de registre|area|bereich modbus|data model|function(?: code)?s?|fc|funktionscode|fonction|function code s)$/,
  ],
  [
    'address',
    /^(?:(?:modbus|register|reg|protocol|wire|data|mb|holding register|input register|coil|holding|input)[ -]?(?:register )?(?:address|addr|adr|adresse)(?:es)?(?: modbus)?|address|addr|adr|adresse|adresse (?:modbus|du registre|registre|de registre)|modbus(?: reg(?:ister)?s?)?|register|registers|reg|registre|registre modbus|(?:modbus )?(?:register|reg) ?(?:no|nr|number|num)|registeradresse|modbus-?adresse|registernummer|modbus-?register|numero de registre|holding registers?|input registers?|coils?|discrete inputs?|reference|referenz|offset)$/,
  ],
  [
    'number',
    /^(?:no|nr|n°|n o|num|number|code|id|index|parameter ?(?:no|nr|number|code|num|id)|param ?(?:no|nr|number|code)?|par ?(?:no|nr)?|p-?nr|pnu|index[ :/-]*sub ?-?(?:index)?|parameter|parametre|parameternummer|nummer|numero|numero (?:de|du) parametre|#|item|menu|code parametre|function code no|parameter-?nr|ref|key|object|objekt|objet|position|pos)$/,
  ],
  [
    'changed-while-running',
    /^(?:(?:change|changeable|adjustable|editable|write|writable|modifiable|settable|change allowed)(?: (?:while|when|during|in))? (?:run|running|operation|motion)|online|run change|on ?the ?fly|im betrieb(?: anderbar)?|anderbar im betrieb|modifiable en marche|en marche)$/,
  ],
  [
    'when',
    /^(?:when|(?:write|change|setting|edit|access) (?:when|condition|conditions|state|mode|allowed|restriction)|changeable|changeable when|change|changes|write cond|writable when|schreibbedingung|anderbar|anderbarkeit|anderung|modifiable|condition|conditions|bedingung|condition d ecriture|quand|when writable|status|written|to be written|wann|schreibbar|ecriture|modification|zustand|state)$/,
  ],
  [
    'access',
    /^(?:access|access (?:type|right|rights|mode|level)|acc|r ?\/ ?w|rw|read ?\/ ?write|attr|attribute|attributes|property|zugriff|zugriffsart|zugr|lesen ?\/ ?schreiben|l ?\/ ?s|acces|droit|droits|lecture ?\/ ?ecriture|l ?\/ ?e|direction|mode|rights|rechte|permission|permissions)$/,
  ],
  [
    'size',
    /^(?:size|length|len|words|word count|register count|registers used|no of registers|number of registers|registers count|qty|quantity|count|bit length|bits used|bytes|width|grosse|lange|anzahl|anzahl register|worte|taille|longueur|nombre de registres|nombre de mots|mots|register anzahl|no of words|number of words|reg count|regs)$/,
  ],
  [
    'type',
    /^(?:type|data ?type|format|data format|datentyp|typ|datenformat|type de donnees|type donnee|encoding|representation|value type|variable type|signed|sign|vorzeichen|data)$/,
  ],
  [
    'unit',
    /^(?:unit|units|uom|einheit|einh|unite|eng unit|engineering unit|dim|dimension|physical unit|unite de mesure)$/,
  ],
  ['decimals', /^(?:decimals|decimal places|dec|dp|exponent|nachkommastellen|nks|decimales|dezimalstellen)$/],
  [
    'scale',
    /^(?:scal(?:e|ing)(?: factor)?|factor|multiplier|mult|resolution|res|step|step size|increment|lsb|per count|value of one count|weight|gain|faktor|skalierung|skal|auflosung|schrittweite|schritt|facteur|echelle|facteur d echelle|pas|mise a l echelle|scaling ?\/ ?unit|conversion|umrechnung|normierung|wertigkeit|coefficient|quantum|1 count|one count|count|min unit|minimum unit|setting unit|increments|ecart|resolution unit|value per bit|valeur d un point|1 =|wert je schritt)$/,
  ],
  [
    'range',
    /^(?:range|setting range|value range|ranges|adjustment range|valid range|limits|values?(?: range)?|setting|settings|allowed values|permitted values|possible values|min ?(?:\/|to|-|–|…|bis|\.\.\.?) ?max|wertebereich|bereich|einstellbereich|grenzen|plage|plage de (?:reglage|valeurs)|etendue|gamme|reglage|werte|einstellung|limites|range of values|range ?\/ ?(?:options|choices|selection|values)|valeurs|wert|valeur|range and choices|contents|value ?\/ ?range)$/,
  ],
  [
    'min',
    /^(?:min|minimum|min ?(?:value|wert|imum value)|lower limit|low limit|low|mini|lower|minimalwert|untergrenze|valeur min(?:imale)?|limite inferieure|from|von|de)$/,
  ],
  [
    'max',
    /^(?:max|maximum|max ?(?:value|wert|imum value)|upper limit|high limit|high|maxi|upper|maximalwert|obergrenze|valeur max(?:imale)?|limite superieure|to|bis|a)$/,
  ],
  [
    'default',
    /^(?:default|default ?(?:value|setting)|def|factory|factory (?:setting|default|value)|fact|fact set(?:ting)?|initial(?: value)?|init|preset|standard|standardwert|werkseinstellung|werk|werkswert|vorgabe|voreinstellung|we|reglage usine|valeur (?:par defaut|usine|initiale)|usine|defaut|par defaut|default set|as delivered|delivery|auslieferung)$/,
  ],
  [
    'choices',
    /^(?:choices?|options?|enum|enumeration|selection|selections|auswahl|optionen|choix|code meaning|meaning of values|value meaning|values and meanings|list|liste|states|coding|codes|selektion)$/,
  ],
  [
    'name',
    /^(?:name|parameter ?name|designation|description|parameter ?description|function|title|label|signal|variable|text|bezeichnung|benennung|parameterbezeichnung|parametername|nom|nom du parametre|libelle|beschreibung|meaning|bedeutung|signification|content|inhalt|parameter text|what|display text|quantity name|register name|data name|item name|denomination|funktion)$/,
  ],
  [
    'note',
    /^(?:notes?|remarks?|comments?|details|explanation|info|information|bemerkung(?:en)?|hinweis(?:e)?|kommentar|remarques?|commentaires?|additional|further|anmerkung(?:en)?|erlauterung|see|page|seite|meaning ?\/ ?remarks|beschreibung ?\/ ?bemerkung)$/,
  ],
];
/** In a table whose names stand in a column of their own, a description says more about them. */
const DESCRIPTION =
  /^(?:description|beschreibung|meaning|bedeutung|signification|function|funktion|content|inhalt|fonction)$/;
const VALUE_HEADING = /^(?:value|wert|valeur|code|setting|no|nr)$/;
const MEANING =
  /^(?:meaning|bedeutung|signification|description|beschreibung|name|text|function|state|choice|option|selection)$/;

/** What one heading is for; null where no rule knows it. */
function headingOf(cell: string): Heading | null {
  const inside = [...cell.matchAll(/[[(]([^\])]*)[\])]/g)].map(([, text = '']) => text.trim()).join(' ');
  const words = fold(cell.replace(/[[(][^\])]*[\])]?/g, ' '));
  const whole = fold(cell);
  for (const text of words === '' ? [whole] : [words, whole]) {
    const found = WORDS.find(([, form]) => form.test(text));
    if (found) return { role: found[0], inside, words: text };
  }
  return null;
}

/**
 * Roles of a line of headings; null where the line is none. At least two of its cells, and half of them, must be known, and no cell is a
 * number. A role is given once: what comes second under the same heading is a note.
 */
export function rolesOfHeadings(cells: readonly string[]): readonly (Heading | null)[] | null {
  const filled = cells.filter((cell) => cell.trim() !== '');
  if (filled.length < 2 || filled.some((cell) => /^[+\-]?[\d.,]+$/.test(cell.trim()))) return null;
  const found = cells.map((cell) => (cell.trim() === '' ? null : headingOf(cell)));
  const known = found.filter((heading) => heading !== null);
  if (known.length < 2 || known.length * 2 < filled.length) return null;
  if (
    filled.length <= 3 &&
    known.some(({ words }) => VALUE_HEADING.test(words)) &&
    known.some(({ words }) => MEANING.test(words))
  )
    if (!known.some(({ role }) => role === 'address' || role === 'bit' || role === 'min'))
      return found.map(
        (heading) =>
          heading &&
          (VALUE_HEADING.test(heading.words)
            ? { ...heading, role: 'value' }
            : MEANING.test(heading.words)
              ? { ...heading, role: 'name' }
              : heading),
      );
  return withoutTwins(found);
}

/** Each role once, where a second heading under it can be told apart. */
function withoutTwins(found: readonly (Heading | null)[]): readonly (Heading | null)[] {
  const names = found.filter((heading) => heading?.role === 'name');
  const plainName = names.find((heading) => heading && !DESCRIPTION.test(heading.words)) ?? names[0];
  const has = (role: ColumnRole): boolean => found.some((heading) => heading?.role === role);
  const seen = new Set<ColumnRole>();
  return found.map((heading) => {
    if (!heading) return null;
    let { role } = heading;
    if (role === 'name' && heading !== plainName) role = 'note';
    // `Parameter` names things where a number or an address stands beside it and no name does.
    if (
      role === 'number' &&
      /^(?:parameter|parametre|item|object|objekt|objet|menu)$/.test(heading.words) &&
      names.length === 0 &&
      (has('address') || found.some((other) => other !== heading && other?.role === 'number'))
    )
      role = 'name';
    if (role === 'unit' && seen.has('unit')) role = 'note';
    if (seen.has(role) && role !== 'note' && role !== 'ignored') role = role === 'address' ? 'number' : 'note';
    seen.add(role);
    return { ...heading, role };
  });
}
