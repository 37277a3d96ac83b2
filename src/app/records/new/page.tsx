import { houseZone } from '@/desk/house/pulse';
import { emptyView } from '@/desk/records/record-view';
import { theHouse } from '@/desk/house/the-house';
import { RecordScreen } from '@/ui/record';
import {
  keepFollowWordsAction,
  keepQuestionsAction,
  makeVenueAction,
  previewNoticeAction,
  savePersonAction,
  saveRecordAction,
} from '../actions';

export default function NewRecordPage() {
  const house = theHouse();
  const zone = houseZone(house);
  const { log, ...context } = emptyView(house, zone);
  return (
    <RecordScreen
      context={{ ...context, id: null }}
      log={log}
      zone={zone}
      save={saveRecordAction}
      makeVenue={makeVenueAction}
      savePerson={savePersonAction}
      keepQuestions={keepQuestionsAction}
      keepFollow={keepFollowWordsAction}
      preview={previewNoticeAction}
    />
  );
}
