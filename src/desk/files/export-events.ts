import { noteDoing } from '@/store/persons';
import { asks } from '../people/rights-of-verbs';
import type { Doer } from '@/core/people/doer';
import { existsSync, readFileSync } from 'node:fs';
import type { RecordDocument } from '@/core/record/record';
import { documentPath } from '@/house/renditions';
import type { RecordId } from '@/core/base/ids';
import { fileNameOf } from '@/core/formats/file-name';
import { writeEventsCsv } from '@/core/formats/write-csv';
import { writeEventsIcs } from '@/core/formats/write-ics';
import { writeEventsJson } from '@/core/formats/write-json';
import { toLocal } from '@/core/base/zones';
import type { House } from '@/house/house';
import { transaction } from '@/store/database';
import { houseId } from '@/store/house-id';
import { noteExported } from '@/store/records';
import { allArtists, allOrganisers, allWordings } from '@/store/people';
import { allTours } from '@/store/tours';
import { allVenues } from '@/store/venues';
import { houseZone } from '../house/pulse';
import { surveyAll, type SurveyedRecord } from '@/house/survey';

/** Formats that records are written in. */
export const exportFormats = ['csv', 'ics', 'json'] as const;
export type ExportFormat = (typeof exportFormats)[number];

/** A file to save. */
export interface ExportedFile {
  name: string;
  type: string;
  text: string;
}

const types: Record<ExportFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  ics: 'text/calendar; charset=utf-8',
  json: 'application/json; charset=utf-8',
};

/**
 * Writes records in one of the open formats, in the order of `ids`. Ids of records that are not there are passed over.
 */
export function exportEvents(house: House, doer: Doer, ids: readonly RecordId[], format: ExportFormat): ExportedFile {
  asks(doer, 'exportEvents');
  const byId = new Map(surveyAll(house).map((record) => [record.record.id, record]));
  const chosen = ids.flatMap((id) => byId.get(id) ?? []);
  // What is known elsewhere cannot be deleted here as if it had never been.
  transaction(
    house.db,
    (tx) => {
      const [first, ...more] = chosen;
      const at = house.clock.now();
      noteExported(
        tx,
        chosen.map(({ record }) => record.id),
        at,
      );
      if (first === undefined) return;
      noteDoing(tx, doer, {
        ...{ at, sort: 'export' },
        ...(more.length === 0 ? { recordId: first.record.id } : {}),
        words: `took ${more.length === 0 ? first.record.code : `${chosen.length} events`} out as ${format}`,
      });
    },
    {
      quiet: true,
    },
  );
  const [only] = chosen;
  const title = chosen.length === 1 && only ? only.record.content.title : 'Season';
  const today = toLocal(house.clock.now(), houseZone(house)).date;
  return { name: fileNameOf(title, today, format), type: types[format], text: textOf(house, chosen, format, title) };
}

/** Largest document that is put into a calendar, in bytes: programs read such files whole. */
const mostAttachedBytes = 1024 * 1024;

function attachedTo(house: House, documents: readonly RecordDocument[]) {
  return documents.flatMap(({ fileId, name, title, type, bytes }) => {
    const file = documentPath(house.folder, fileId);
    if (bytes > mostAttachedBytes || !existsSync(file)) return [];
    return [{ name: title || name, type, base64: readFileSync(file).toString('base64') }];
  });
}

function textOf(house: House, chosen: readonly SurveyedRecord[], format: ExportFormat, title: string): string {
  const { db, clock } = house;
  const records = chosen.map(({ record, survey }) => ({
    writtenFrom: `${houseId(db)}/${record.id}`,
    code: record.code,
    content: record.content,
    facts: survey.facts,
    revision: record.revision,
    savedAt: record.at,
    page: null,
    attached: format === 'ics' ? attachedTo(house, survey.facts.documents) : [],
  }));
  switch (format) {
    case 'csv':
      return writeEventsCsv(records);
    case 'ics':
      return writeEventsIcs(records, { name: title, now: clock.now(), domain: `${houseId(db)}.nuntiax` });
    case 'json':
      return writeEventsJson(records, {
        venues: allVenues(db),
        artists: allArtists(db),
        organisers: allOrganisers(db),
        wordings: allWordings(db),
        tours: allTours(db),
      });
    default:
      return format satisfies never;
  }
}
