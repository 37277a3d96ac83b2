import { seasonClashes } from '@/desk/records/bookings';
import { theHouse } from '@/desk/house/the-house';
import { wrongWords } from '@/desk/records/words-check';
import { ClashList } from '@/ui/clashes/ClashList';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';

export default function ClashesPage() {
  const house = theHouse();
  return (
    <>
      <RefreshOnPulse />
      <ClashList
        clashes={seasonClashes(house)}
        words={wrongWords(house)}
        year={new Date(house.clock.now()).getUTCFullYear()}
      />
    </>
  );
}
