import { Checkbox, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { ChannelAudience } from '@/core/listing/channel-row';
import classes from './ChannelCard.module.css';
import { noAnswer, type ChannelCardProps } from './channel-card-props';

/** Who sees what stands on a channel, and saying otherwise: kept at once, for a group when its name is left. */
export function SeenBy({
  id,
  audience,
  say,
}: {
  id: string;
  audience: ChannelAudience;
  say: ChannelCardProps['sayAudience'];
}) {
  const [chosen, setChosen] = useState<ChannelAudience>(audience);
  const [kept, setKept] = useState<ChannelAudience>(audience);
  const [opening, setOpening] = useState(false);
  const [said, setSaid] = useState('');
  const keep = async (next: ChannelAudience) => {
    const answer = await say(id, next).catch(noAnswer);
    setSaid(answer.ok ? 'Kept.' : answer.error);
    if (!answer.ok) return;
    setKept(next);
    setOpening(false);
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
          const alone = chosen.alone ?? false;
          const next: ChannelAudience =
            who === 'group' ? { who, name: '', alone } : who === 'members' ? { who, alone } : { who: 'everyone' };
          setChosen(next);
          setSaid('');
          setOpening(next.who === 'everyone' && kept.who !== 'everyone');
          if (next.who === 'members' || (next.who === 'everyone' && kept.who === 'everyone')) void keep(next);
        }}
      />
      {chosen.who === 'group' ? (
        <TextInput
          w={180}
          size="xs"
          label="Name of the group"
          value={chosen.name}
          onChange={(e) => setChosen({ ...chosen, who: 'group', name: e.currentTarget.value })}
          onBlur={() => void keep(chosen)}
        />
      ) : null}
      {chosen.who === 'everyone' ? null : (
        <Checkbox
          size="xs"
          label="what is for everyone does not go there"
          checked={chosen.alone === true}
          onChange={(e) => {
            const next = { ...chosen, alone: e.currentTarget.checked };
            setChosen(next);
            if (next.who !== 'group' || next.name.trim() !== '') void keep(next);
          }}
        />
      )}
      {opening ? (
        <Opening
          who={kept.who === 'group' ? 'a group' : 'members'}
          onOpen={() => void keep(chosen)}
          onLeave={() => {
            setChosen(kept);
            setOpening(false);
          }}
        />
      ) : null}
      <span role="status">{said}</span>
    </div>
  );
}

/** What comes of opening to everybody what some alone saw, before it is done. */
function Opening({ who, onOpen, onLeave }: { who: string; onOpen: () => void; onLeave: () => void }) {
  return (
    <p className={classes.opening} role="alert">
      Everybody sees then what stands there. What is for {who} alone is to be taken down there, with your yes in the
      dispatch; until that is done it is seen.{' '}
      <button type="button" className="plainButton" onClick={onOpen}>
        Open it to everyone
      </button>{' '}
      <button type="button" className="plainButton" onClick={onLeave}>
        Leave it as it is
      </button>
    </p>
  );
}
