import { theDoer } from '@/app/who-asks';
import { houseZone } from '@/desk/house/pulse';
import { theHouse } from '@/desk/house/the-house';
import { zonesOf } from '@/desk/house/zones-of';
import { peopleView } from '@/desk/people/people';
import { PeopleScreen } from '@/ui/people/PeopleScreen';
import { HaveZones } from '@/ui/zones/HaveZones';
import {
  changeRoleAction,
  endSessionAction,
  inviteAction,
  takeInvitationBackAction,
  takePersonOutAction,
} from './actions';

export const metadata = { title: 'People' };

export default async function PeoplePage() {
  const doer = await theDoer('keep');
  const house = theHouse();
  const zone = houseZone(house);
  return (
    <HaveZones zones={zonesOf({ zone })}>
      <PeopleScreen
        view={peopleView(house, doer)}
        zone={zone}
        invite={inviteAction}
        takeBack={takeInvitationBackAction}
        changeRole={changeRoleAction}
        takeOut={takePersonOutAction}
        endSession={endSessionAction}
      />
    </HaveZones>
  );
}
