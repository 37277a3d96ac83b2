import { theDoer } from '@/app/who-asks';
import { zonesOf } from '@/desk/house/zones-of';
import { HaveZones } from '@/ui/zones/HaveZones';
import { seasonClashes } from '@/desk/records/bookings';
import { theHouse } from '@/desk/house/the-house';
import { wrongWords } from '@/desk/records/words-check';
import { ClashList } from '@/ui/clashes/ClashList';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';

export const metadata = { title: 'Clashes' };

export default async function ClashesPage() {
  const doer = await theDoer('browse');
  const house = theHouse();
  const clashes = seasonClashes(house, doer);
  return (
    <HaveZones zones={zonesOf(clashes)}>
      <RefreshOnPulse />
      <ClashList
        clashes={clashes}
        words={wrongWords(house, doer)}
        year={new Date(house.clock.now()).getUTCFullYear()}
      />
    </HaveZones>
  );
}
