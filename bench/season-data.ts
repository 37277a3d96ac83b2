import { by, keeper } from '@/core/testing/doers';
import path from 'node:path';
import { addDays } from '@/core/base/zones';
import { seasonClashes } from '@/desk/records/bookings';
import { directoryView } from '@/desk/directory/directory-view';
import { importEvents } from '@/desk/files/import-events';
import { recordView } from '@/desk/records/record-view';
import { saveRecord } from '@/desk/records/save-record';
import { season } from '@/desk/records/season';
import { toSend } from '@/desk/dispatch/to-send';
import { wrongWords } from '@/desk/records/words-check';
import { openHouse } from '@/house/house';
import { allRecords } from '@/store/records';

/** Fills the data folder with many events through the real import, and times what the season's page does. */
const events = Number(process.env.EVENTS ?? 2000);
const house = openHouse(path.resolve(process.env.NUNTIAX_DATA ?? 'data/bench'), null);
const today = new Date(house.clock.now()).toISOString().slice(0, 10);
const rows = Array.from(
  { length: events },
  (_, i) =>
    `B-${i},Event number ${i},${addDays(today, i % 700)},20:00,Yard ${i % 40},Marrowby,Europe/Dublin,18,yes,An evening of some length and number ${i}.`,
);
const timed = (name: string, work: () => unknown) => {
  const started = performance.now();
  work();
  console.log(`${name}: ${Math.round(performance.now() - started)} ms`);
};
for (let at = 0; at < rows.length; at += 5000) {
  timed(`import of ${Math.min(5000, rows.length - at)}`, () =>
    importEvents(
      house,
      by('bench'),
      'bench.csv',
      ['ref,title,date,start,venue,town,zone,price,public,teaser', ...rows.slice(at, at + 5000)].join('\n'),
      'Europe/Dublin',
    ),
  );
}
timed('season, first time', () => season(house, keeper));
timed('season, nothing changed', () => season(house, keeper));
timed('what is to send', () => toSend(house, keeper));
const [first] = allRecords(house.db);
if (first) {
  timed('save a record', () =>
    saveRecord(house, by('bench'), {
      id: first.id,
      base: first.revision,
      content: { ...first.content, subtitle: `at ${Date.now()}` },
      reason: '',
    }),
  );
  timed('open its screen', () => recordView(house, keeper, first.id));
  timed('season after the save', () => season(house, keeper));
}
timed('clashes of the season', () => seasonClashes(house, keeper));
timed('words of the season against the facts, first time', () => wrongWords(house, keeper));
timed('directory', () => directoryView(house, keeper));
house.db.close();
