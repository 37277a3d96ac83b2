import { Select, TextInput } from '@mantine/core';
import type { Target } from '@/core/record/record';
import { useChannels } from '@/ui/use-channels';

interface TargetFieldProps {
  label: string;
  to: Target;
  onChange: (to: Target) => void;
  /** The channel that it is for: it never leads to itself. */
  without?: string;
  error: string | undefined;
}

/** What a link leads to: where tickets are, a page on a channel, the venue's site, or an address. */
export function TargetField({ label, to, onChange, without, error }: TargetFieldProps) {
  const channels = useChannels();
  const pages = channels.all.filter(({ rules }) => rules.gives.includes('public address') && rules.id !== without);
  const value = to.kind === 'page' ? `page ${to.channel}` : to.kind;
  const data = [
    { value: 'tickets', label: 'where tickets are' },
    ...pages.map(({ rules }) => ({ value: `page ${rules.id}`, label: `its page on ${rules.name}` })),
    ...(to.kind === 'page' && !pages.some(({ rules }) => rules.id === to.channel)
      ? [{ value, label: `its page on ${channels.name(to.channel)}` }]
      : []),
    { value: 'venue', label: 'the venue’s site' },
    { value: 'map', label: 'the venue on a map' },
    { value: 'address', label: 'an address' },
  ];
  const choose = (next: string | null) => {
    if (next === null) return;
    if (next.startsWith('page ')) onChange({ kind: 'page', channel: next.slice(5) });
    else if (next === 'address') onChange({ kind: 'address', href: '' });
    else onChange({ kind: next === 'venue' || next === 'map' ? next : 'tickets' });
  };
  return (
    <>
      <Select w={190} label={label} data={data} value={value} allowDeselect={false} onChange={choose} />
      {to.kind === 'address' ? (
        <TextInput
          style={{ flex: 1, minWidth: 160 }}
          label="Address"
          value={to.href}
          placeholder="https://"
          error={error}
          onChange={(e) => onChange({ kind: 'address', href: e.currentTarget.value })}
        />
      ) : null}
    </>
  );
}
