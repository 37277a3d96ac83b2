/** Documents that are taken in and handed on, by the ending of their name: none that a browser would run. */
const types: Readonly<Record<string, string>> = {
  pdf: 'application/pdf',
  txt: 'text/plain',
  csv: 'text/csv',
  odt: 'application/vnd.oasis.opendocument.text',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
};

/** How the files of a type begin, where they all do. */
const beginnings: Readonly<Record<string, readonly number[]>> = {
  pdf: [0x25, 0x50, 0x44, 0x46],
  odt: [0x50, 0x4b],
  ods: [0x50, 0x4b],
  docx: [0x50, 0x4b],
  xlsx: [0x50, 0x4b],
  png: [0x89, 0x50, 0x4e, 0x47],
  jpg: [0xff, 0xd8],
  jpeg: [0xff, 0xd8],
};

/** The endings that are taken, for a person. */
export const documentEndings = 'PDF, TXT, CSV, ODT, ODS, DOCX, XLSX, PNG or JPEG';

const endingOf = (name: string) => /\.([a-z0-9]{1,5})$/i.exec(name)?.[1]?.toLowerCase() ?? '';

/** The media type (RFC 6838) of a file by its name; `null`: such a file is not taken. */
export function typeOfFile(name: string): string | null {
  return types[endingOf(name)] ?? null;
}

/** True where a file begins as its ending says, and where one that is text holds no zero bytes. */
export function isAsNamed(name: string, bytes: Uint8Array): boolean {
  const ending = endingOf(name);
  const start = beginnings[ending];
  return start ? start.every((byte, i) => bytes[i] === byte) : !bytes.subarray(0, 4096).includes(0);
}
