import { theDoer } from '@/app/who-asks';
import { zoneNames } from '@/core/base/zones';
import { HaveZones } from '@/ui/zones/HaveZones';
import { makeFeedAction } from '@/app/channels/actions';
import { mayDo } from '@/core/people/doer';
import { calendarFeeds } from '@/desk/channels/calendar-feeds';
import { HaveFeeds } from '@/ui/subscribe';
import { channelList } from '@/desk/channels/channels-view';
import { directoryView } from '@/desk/directory/directory-view';
import { pictureShelf } from '@/desk/directory/picture-shelf';
import { theHouse } from '@/desk/house/the-house';
import { DirectoryScreen } from '@/ui/directory/DirectoryScreen';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';
import {
  keepOwnAction,
  keepPictureAction,
  makeVenueAction,
  mergeAction,
  savePersonAction,
  saveVenueAction,
  verifyAction,
  whereUsedAction,
} from './actions';

const doings = {
  makeVenue: makeVenueAction,
  saveVenue: saveVenueAction,
  savePerson: savePersonAction,
  merge: mergeAction,
  whereUsed: whereUsedAction,
  verify: verifyAction,
  keepOwn: keepOwnAction,
  keepPicture: keepPictureAction,
};

export const metadata = { title: 'Directory' };

export default async function DirectoryPage() {
  const doer = await theDoer('browse');
  const house = theHouse();
  const view = directoryView(house, doer);
  return (
    <HaveZones zones={{}} names={zoneNames()}>
      <RefreshOnPulse />
      <HaveFeeds feeds={calendarFeeds(house, doer)} make={mayDo(doer, 'keep') ? makeFeedAction : null}>
        <DirectoryScreen
          {...view}
          pictures={pictureShelf(house, doer)}
          channels={channelList(house, doer).map(({ rules }) => ({
            id: rules.id,
            name: rules.name,
            profiles: rules.hasProfiles,
            venues: rules.hasVenues,
          }))}
          doings={doings}
        />
      </HaveFeeds>
    </HaveZones>
  );
}
