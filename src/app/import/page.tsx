import { theDoer } from '@/app/who-asks';
import { zoneNames } from '@/core/base/zones';
import { HaveZones } from '@/ui/zones/HaveZones';
import { neededColumns, otherColumns } from '@/core/formats/csv-cells';
import { fileLimits } from '@/core/formats/import-row';
import { fileJobs } from '@/desk/files/jobs';
import { filesReadIn } from '@/desk/files/take-back';
import { houseZone } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';
import { FilesRead } from '@/ui/import/FilesRead';
import { ImportForm } from '@/ui/import/ImportForm';
import { takeFileBackAction } from './actions';
import classes from '../page.module.css';

export const dynamic = 'force-dynamic';

export const metadata = { title: 'Read a file' };

export default async function ImportPage() {
  const doer = await theDoer('write');
  const house = theHouse();
  return (
    <div className={classes.page}>
      <h1>Read a file</h1>
      <p className={classes.lead}>
        Events from a spreadsheet (CSV), a calendar (iCalendar), a file of ours (JSON) or a saved web page become
        records. Nothing is sent by that.
      </p>
      <HaveZones zones={{}} names={zoneNames()}>
        <ImportForm jobs={fileJobs(doer)} needed={neededColumns} others={otherColumns} mostBytes={fileLimits.bytes} />
      </HaveZones>
      <FilesRead files={filesReadIn(house, doer)} zone={houseZone(house)} takeBack={takeFileBackAction} />
    </div>
  );
}
