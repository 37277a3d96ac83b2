import { theDoer } from '@/app/who-asks';
import { toLocal } from '@/core/base/zones';
import { houseZone } from '@/desk/house/pulse';
import { manyUndoable } from '@/desk/records/many';
import { season } from '@/desk/records/season';
import { theHouse } from '@/desk/house/the-house';
import { leaveReadAction, makeFeedAction } from '@/app/channels/actions';
import { calendarFeeds } from '@/desk/channels/calendar-feeds';
import { HaveFeeds, Subscribe } from '@/ui/subscribe';
import { leaveToTell } from '@/desk/channels/standing-leave';
import { LeaveTold } from '@/ui/leave-told';
import { mayDo } from '@/core/people/doer';
import { SeasonList } from '@/ui/season-list';
import { TonightList } from '@/ui/season-list/TonightList';
import { packRows } from '@/ui/season-list/packed';
import { inView, views } from '@/ui/season-list/narrow';
import { manyChoicesAction, saveManyAction, undoManyAction } from './actions';
import { RefreshOnPulse } from '@/ui/shell/RefreshOnPulse';

/** So many lines go with the page; of a longer season the rest follows when these are drawn. */
const withPage = 400;

export const metadata = { title: 'Season' };

export default async function SeasonPage() {
  const doer = await theDoer();
  const house = theHouse();
  const { rows, channels, now, behind, mark } = season(house, doer);
  const whole = rows.length <= withPage;
  const today = toLocal(now, houseZone(house)).date;
  const edit = manyUndoable(house, doer);
  return (
    <>
      <RefreshOnPulse />
      <div className="toldAbove">
        <LeaveTold first={leaveToTell(house, doer)} read={leaveReadAction} />
        {mayDo(doer, 'correct') ? <TonightList rows={rows} today={today} /> : null}
        {mayDo(doer, 'browse') ? (
          <HaveFeeds feeds={calendarFeeds(house, doer)} make={mayDo(doer, 'keep') ? makeFeedAction : null}>
            <Subscribe holds="house" name="the house" />
          </HaveFeeds>
        ) : null}
      </div>
      <SeasonList
        packed={packRows(whole ? rows : rows.filter((row) => inView(row, 'upcoming')).slice(0, withPage))}
        rest={whole ? null : mark}
        counts={views.map((view) => rows.filter((row) => inView(row, view)).length)}
        all={rows.length}
        channels={channels}
        behind={behind}
        zone={houseZone(house)}
        many={{ choices: manyChoicesAction, save: saveManyAction }}
        last={edit !== null && edit.why === null ? { edit, undo: undoManyAction } : null}
        today={today}
      />
    </>
  );
}
