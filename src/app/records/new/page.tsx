import { houseZone } from '@/desk/pulse';
import { emptyView } from '@/desk/record-view';
import { theHouse } from '@/desk/the-house';
import { RecordScreen } from '@/ui/record-form';
import { makeVenueAction, savePersonAction, saveRecordAction } from '../actions';

export default function NewRecordPage() {
  const house = theHouse();
  const zone = houseZone(house);
  const { log, ...ground } = emptyView(house, zone);
  return <RecordScreen ground={{ ...ground, id: null }} log={log} zone={zone} save={saveRecordAction} makeVenue={makeVenueAction} savePerson={savePersonAction} />;
}
