import { answered } from '@/app/who-asks';
import { season } from '@/desk/records/season';
import { theHouse } from '@/desk/house/the-house';
import { packRows } from '@/ui/season-list/packed';

export const dynamic = 'force-dynamic';

/** Every line of the season, for a page that has drawn the first of them already. */
export const GET = answered((doer) => {
  return new Response(packRows(season(theHouse(), doer).rows), {
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
  });
});
