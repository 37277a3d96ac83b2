/** Something a person should know of how a row was read: a word for machines, and one for people. */
export interface FileNote {
  code: string;
  text: string;
}

/** A row that could not be read: where, which field, why and the way out. */
export interface BrokenRow extends FileNote {
  line: number;
  field: string;
}
