const most = 60;

/** A text between quotation marks, as much of it as a message can hold. */
export function quoted(text: string): string {
  return text.length > most ? `“${text.slice(0, most)}…”` : `“${text}”`;
}
