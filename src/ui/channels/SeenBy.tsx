import { Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Audience } from '@/core/record/record';
import classes from './ChannelCard.module.css';
import { noAnswer, type ChannelCardProps } from './channel-card-props';

/** Who sees what stands on a channel, and saying otherwise: kept at once, for a group when its name is left. */
export function SeenBy({
  id,
  audience,
  say,
}: {
  id: string;
  audience: Audience;
  say: ChannelCardProps['sayAudience'];
}) {
  const [chosen, setChosen] = useState<Audience>(audience);
  const [said, setSaid] = useState('');
  const keep = async (next: Audience) => {
    const answer = await say(id, next).catch(noAnswer);
    setSaid(answer.ok ? 'Kept.' : answer.error);
  };
  return (
    <div className={classes.seenBy}>
      <Select
        w={170}
        size="xs"
        label="What stands there is seen by"
        data={[
          { value: 'everyone', label: 'everyone' },
          { value: 'members', label: 'members alone' },
          { value: 'group', label: 'one group alone' },
        ]}
        value={chosen.who}
        allowDeselect={false}
        onChange={(who) => {
          const next: Audience =
            who === 'group' ? { who, name: '' } : { who: who === 'members' ? 'members' : 'everyone' };
          setChosen(next);
          setSaid('');
          if (next.who !== 'group') void keep(next);
        }}
      />
      {chosen.who === 'group' ? (
        <TextInput
          w={180}
          size="xs"
          label="Name of the group"
          value={chosen.name}
          onChange={(e) => setChosen({ who: 'group', name: e.currentTarget.value })}
          onBlur={() => void keep(chosen)}
        />
      ) : null}
      <span role="status">{said}</span>
    </div>
  );
}
