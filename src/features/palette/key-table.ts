/** Every key of the program, for the map that `?` shows. Bare keys work while nobody is typing. */
export const KEY_TABLE: readonly {
  readonly where: string;
  readonly rows: readonly (readonly [keys: string, what: string])[];
}[] = [
  {
    where: 'Everywhere',
    rows: [
      ['Ctrl .', 'Stop every drive that this bench set in motion'],
      ['Ctrl K', 'any command by its name'],
      ['Ctrl Enter', 'send what the stage has ready'],
      ['1 to 8', 'change the stage'],
      ['T', 'trace: fold, open, enlarge'],
      ['?', 'this map'],
    ],
  },
  {
    where: 'On a byte of the request',
    rows: [
      ['0 to 9, A to F', 'type over the byte'],
      ['← → Home End', 'walk'],
      ['Insert, Delete', 'put a byte in, take one out'],
      ['Ctrl V', 'paste bytes in any notation'],
      ['Ctrl Z, Ctrl Y', 'undo, redo'],
    ],
  },
  {
    where: 'On the scales',
    rows: [
      ['← →', 'one count less, one more'],
      ['Page Up, Page Down', 'a hundred counts'],
    ],
  },
];
