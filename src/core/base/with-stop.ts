/** A sentence with its full stop: one that ends with a stop of any sort keeps its own. */
export function withStop(text: string): string {
  const sentence = text.trimEnd();
  return /[.!?…:]["”’»)]?$/.test(sentence) || sentence === '' ? sentence : `${sentence}.`;
}
