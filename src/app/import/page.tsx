import { neededColumns, otherColumns } from '@/core/formats/events-csv';
import { houseZone } from '@/desk/pulse';
import { theHouse } from '@/desk/the-house';
import { ImportForm } from '@/ui/import/ImportForm';
import classes from '../page.module.css';
import { importAction } from './actions';

export default function ImportPage() {
  return (
    <div className={classes.page}>
      <h1>Read a file</h1>
      <p className={classes.lead}>Events from a spreadsheet (CSV), a calendar (iCalendar) or a file of ours (JSON) become records. Nothing is sent by that.</p>
      <ImportForm zone={houseZone(theHouse())} needed={neededColumns} others={otherColumns} read={importAction} />
    </div>
  );
}
