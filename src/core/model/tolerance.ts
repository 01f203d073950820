/** What a layer that is written by hand may do otherwise than declared without being wrong, each with what it means. */
export const tolerances = {
  numbersAsText: 'a text in JSON that spells a number as a form does is read as that number',
  booleansAsText: 'the texts true and false in JSON are read as booleans',
  emptyTextAsAbsent: 'the empty text in JSON is an absent value of any kind',
  unknownKeys: 'keys that are not declared are ignored',
  replacementCharacter:
    'U+FFFD is a character of text like any other, and what an encoding makes of half a surrogate pair',
  nullAsEmptyList: 'an empty list is stored or answered as null, or left out',
  oneViolation: 'of several violations some are reported',
  blameAtRecord: 'a required field that is absent is reported at the record that it is in',
  blameAtList: 'what is wrong with an entry is reported at its list',
  typeConversion:
    'a column stores a value of another type, or another spelling of a value, as the value of its own type',
  roundedFractions: 'a column rounds or cuts a fraction that is finer than its type',
} as const;

export type Tolerance = keyof typeof tolerances;

export const toleranceNames = Object.keys(tolerances) as readonly Tolerance[];
