import { seasonClashes } from '@/desk/bookings';
import { theHouse } from '@/desk/the-house';
import { wrongWords } from '@/desk/words-check';
import { ClashList } from '@/ui/clashes/ClashList';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';

export default function ClashesPage() {
  const house = theHouse();
  return <><RefreshOnPulse /><ClashList clashes={seasonClashes(house)} words={wrongWords(house)} year={new Date(house.clock.now()).getUTCFullYear()} /></>;
}
