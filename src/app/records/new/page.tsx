import { theDoer } from '@/app/who-asks';
import { zoneNames } from '@/core/base/zones';
import { channelList } from '@/desk/channels/channels-view';
import { zonesOf } from '@/desk/house/zones-of';
import { ChannelsProvider } from '@/ui/use-channels';
import { HaveZones } from '@/ui/zones/HaveZones';
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

export const metadata = { title: 'New record' };

export default async function NewRecordPage() {
  const doer = await theDoer('write');
  const house = theHouse();
  const zone = houseZone(house);
  const { log, ...context } = emptyView(house, doer, zone);
  return (
    <HaveZones zones={zonesOf(context)} names={zoneNames()}>
      <ChannelsProvider rows={channelList(house, doer).map(({ row }) => row)}>
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
      </ChannelsProvider>
    </HaveZones>
  );
}
