import { toLocal } from '@/core/zones';
import { houseZone } from '@/desk/pulse';
import { season } from '@/desk/season';
import { theHouse } from '@/desk/the-house';
import { SeasonList } from '@/ui/season-list';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';

export default function SeasonPage() {
  const house = theHouse();
  const { rows, channels, now } = season(house);
  return <><RefreshOnPulse /><SeasonList rows={rows} channels={channels} today={toLocal(now, houseZone(house)).date} /></>;
}
