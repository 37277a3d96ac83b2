const escapes: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Words as they stand in the text or an attribute of HTML or XML. */
export const escapeHtml = (words: string): string => words.replace(/[&<>"]/g, (c) => escapes[c] ?? c);
