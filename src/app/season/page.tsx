import { toLocal } from '@/core/base/zones';
import { houseZone } from '@/desk/house/pulse';
import { season } from '@/desk/records/season';
import { theHouse } from '@/desk/house/the-house';
import { SeasonList } from '@/ui/season-list';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';

export default function SeasonPage() {
  const house = theHouse();
  const { rows, channels, now, behind } = season(house);
  return (
    <>
      <RefreshOnPulse />
      <SeasonList rows={rows} channels={channels} behind={behind} today={toLocal(now, houseZone(house)).date} />
    </>
  );
}
