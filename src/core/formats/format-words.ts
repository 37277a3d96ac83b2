/** Formats that records are written in, as a person reads their names, with what each cannot say. */
export const formatNames = { csv: 'CSV', ics: 'iCalendar', json: 'JSON' } as const;

/** What is lost on the way through a file: told where one is saved. */
export const whatFilesLeaveOut =
  'JSON holds all of it. CSV leaves out prices but one full and one reduced, outlets, registration, programme, pictures, links and posts; iCalendar these, and how one gets in.';
