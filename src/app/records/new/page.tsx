import { freshId } from '@/store/ids';
import { newRecord } from '@/core/new-record';
import { addDays, toLocal } from '@/core/zones';
import { houseZone } from '@/desk/pulse';
import { emptyView } from '@/desk/record-view';
import { theHouse } from '@/desk/the-house';
import { RecordScreen } from '@/ui/record-form';
import { makeVenueAction, saveRecordAction } from '../actions';

export default function NewRecordPage() {
  const house = theHouse();
  const zone = houseZone(house);
  const view = emptyView(house);
  const content = newRecord(addDays(toLocal(view.now, zone).date, 28), zone, () => freshId('p'));
  return <RecordScreen ground={{ ...view, id: null, code: '', revision: 0, content, listings: [], errands: [] }} log={[]} zone={zone} save={saveRecordAction} makeVenue={makeVenueAction} />;
}
