import { Checkbox } from '@mantine/core';
import { useState } from 'react';
import { noAnswer, type ChannelCardProps } from './channel-card-props';

/** Whether what the clock alone changes goes to a channel without asking: kept at once. */
export function Leave({ id, given, give }: { id: string; given: boolean; give: ChannelCardProps['giveLeave'] }) {
  const [on, setOn] = useState(given);
  const [said, setSaid] = useState('');
  const keep = async (next: boolean) => {
    setOn(next);
    const answer = await give(id, next).catch(noAnswer);
    setSaid(answer.ok ? 'Kept.' : answer.error);
    if (!answer.ok) setOn(!next);
  };
  return (
    <div>
      <Checkbox
        size="xs"
        label="Standing leave: what the clock alone changes goes by itself"
        description="Words of a sale that opens or closes, the price from which one gets in, how many are left, sold out. Whatever else waits for a yes."
        checked={on}
        onChange={(e) => void keep(e.currentTarget.checked)}
      />
      <span role="status">{said}</span>
    </div>
  );
}
