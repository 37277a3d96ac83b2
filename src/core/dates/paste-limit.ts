/** Most characters of one paste of dates. */
export const mostPasteChars = 100_000;
