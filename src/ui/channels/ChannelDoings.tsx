import { TextInput } from '@mantine/core';
import { useEffect, useRef, useState, useTransition, type FormEvent } from 'react';
import classes from './ChannelCard.module.css';
import { noAnswer, type ChannelCardProps } from './channel-card-props';
import { ConnectForm } from './ConnectForm';

/** What can be opened of a channel: connecting it anew, its names, taking it off. */
type Doing = 'connect' | 'rename' | 'off';
const labels: Record<Doing, string> = { connect: 'Reconnect', rename: 'Rename', off: 'Disconnect' };

interface DoingsProps extends Pick<ChannelCardProps, 'channel' | 'connect' | 'disconnect' | 'rename'> {
  /** Says what became of it. */
  onSaid: (words: string) => void;
}

/**
 * What is done with a channel as a whole. What is pressed open gets the focus; when it closes, what opened it has the
 * focus again.
 */
export function ChannelDoings(props: DoingsProps) {
  const { channel } = props;
  const [doing, setDoing] = useState<Doing | null>(null);
  const opener = useRef<HTMLButtonElement | null>(null);
  const panel = useRef<HTMLDivElement>(null);
  const close = () => {
    setDoing(null);
    opener.current?.focus();
  };
  useEffect(() => {
    if (doing !== null && opener.current !== null)
      panel.current?.querySelector<HTMLElement>('input, [tabindex="-1"]')?.focus();
  }, [doing]);
  const { through, connection } = channel;
  const open: Doing[] = [
    ...(through === null && !(channel.ours && channel.settingFields.length === 0) ? ['connect' as const] : []),
    'rename',
    ...(through === null && connection !== null ? ['off' as const] : []),
  ];
  return (
    <>
      <div ref={panel} onKeyDown={(event) => (event.key === 'Escape' ? close() : undefined)}>
        {doing === null ? null : <Panel doing={doing} onDone={close} {...props} />}
      </div>
      <p className={classes.tools}>
        {through === null ? null : <>It uses the connection of {through}. </>}
        {open.map((what, i) => (
          <span key={what}>
            {i === 0 ? '' : ' · '}
            <button
              type="button"
              className="plainButton"
              aria-expanded={doing === what}
              onClick={(event) => {
                opener.current = event.currentTarget;
                setDoing(doing === what ? null : what);
              }}
            >
              {what === 'connect' && channel.ours ? 'What it holds' : labels[what]}
            </button>
          </span>
        ))}
      </p>
    </>
  );
}

function Panel({
  doing,
  channel,
  connect,
  disconnect,
  rename,
  onSaid,
  onDone,
}: DoingsProps & { doing: Doing; onDone: () => void }) {
  const { id, name, connection } = channel;
  const [busy, start] = useTransition();
  if (doing === 'rename') return <Rename channel={channel} rename={rename} onDone={onDone} />;
  if (doing === 'connect')
    return (
      <ConnectForm
        which={{ id }}
        steps={channel.steps}
        credentials={channel.credentials}
        settings={channel.settingFields.map((field) => ({
          ...field,
          value: String(channel.settings[field.name] ?? ''),
        }))}
        address={channel.ours ? null : (connection?.address ?? '')}
        names={null}
        connect={connect}
        onConnected={(knownAs) => {
          onSaid(channel.ours ? 'Kept.' : `Connected.${knownAs === '' ? '' : ` ${name} knows us as ${knownAs}.`}`);
          onDone();
        }}
      />
    );
  const takeOff = () =>
    start(async () => {
      const answer = await disconnect(id).catch(noAnswer);
      onSaid(answer.ok ? 'Disconnected. What stands there stays; it can be connected again.' : answer.error);
      onDone();
    });
  return (
    <p tabIndex={-1}>
      Nothing goes to {name} any more; what stands there stays, and its history is kept.
      {channel.unties.length === 0 ? '' : ` For good: ${channel.unties.join(' ')}`}{' '}
      <button type="button" className="quietButton" disabled={busy} onClick={takeOff}>
        Disconnect {name}
      </button>
    </p>
  );
}

function Rename({
  channel,
  rename,
  onDone,
}: {
  channel: ChannelCardProps['channel'];
  rename: ChannelCardProps['rename'];
  onDone: () => void;
}) {
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, start] = useTransition();
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    start(async () => {
      const names = { name: String(form.get('name') ?? ''), shortName: String(form.get('shortName') ?? '') };
      const answer = await rename(channel.id, names).catch(() => ({
        ok: false as const,
        error: { name: noAnswer().error },
      }));
      setErrors(answer.ok ? {} : answer.error);
      if (answer.ok) onDone();
    });
  };
  return (
    <form onSubmit={submit} className={classes.form}>
      <TextInput name="name" label="What you call it" defaultValue={channel.name} error={errors.name} />
      <TextInput
        name="shortName"
        label="In short, for columns"
        defaultValue={channel.shortName}
        error={errors.shortName}
      />
      <button type="submit" className="quietButton" disabled={busy}>
        Keep the names
      </button>
    </form>
  );
}
