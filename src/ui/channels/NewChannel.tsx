'use client';

import Link from 'next/link';
import { useState } from 'react';
import classes from './ChannelCard.module.css';
import { ConnectForm, type Connect, type SettingOf } from './ConnectForm';

interface NewChannelProps {
  kinds: {
    kind: string;
    kindName: string;
    group: string;
    trade: string;
    habits: readonly string[];
    steps: readonly string[];
    credentials: readonly { name: string; label: string; secret: boolean; about?: string }[];
    settingFields: readonly SettingOf[];
    /** It lies at our own house. */
    ours: boolean;
  }[];
  /** What each group of trades is called, in their order. */
  groups: Readonly<Record<string, string>>;
  connect: Connect;
}

/** Connects one more channel: of any kind, and as many of a kind as there are places. */
export function NewChannel({ kinds, groups, connect }: NewChannelProps) {
  const [kind, setKind] = useState<string | null>(null);
  const [said, setSaid] = useState<{ id: string; words: string } | null>(null);
  const chosen = kinds.find((candidate) => candidate.kind === kind);
  return (
    <section className={classes.channel} aria-label="Connect another channel">
      <header>
        <h2>One more</h2>
        <p>as many of a kind as there are places</p>
      </header>
      <div>
        {Object.entries(groups).map(([group, title]) => (
          <div key={group} className={classes.kinds} role="group" aria-label={title}>
            <h3>{title}</h3>
            <div>
              {kinds
                .filter((kind) => kind.group === group)
                .map((item) => (
                  <button
                    key={item.kind}
                    type="button"
                    className="quietButton"
                    aria-pressed={kind === item.kind}
                    onClick={() => setKind(kind === item.kind ? null : item.kind)}
                  >
                    {item.kindName} <small>{item.trade}</small>
                  </button>
                ))}
            </div>
          </div>
        ))}
        {said === null ? null : (
          <p role="status">
            {said.words} <Link href={`/channels?channel=${said.id}`}>See its rules</Link>
          </p>
        )}
        {chosen ? (
          <>
            <ul className={classes.habits}>
              {chosen.habits.slice(0, 3).map((habit) => (
                <li key={habit}>{habit}</li>
              ))}
            </ul>
            <ConnectForm
              key={chosen.kind}
              which={{ kind: chosen.kind }}
              credentials={chosen.credentials}
              steps={chosen.steps}
              settings={chosen.settingFields.map((field) => ({ ...field, value: '' }))}
              address={chosen.ours ? null : ''}
              names={{ name: chosen.kindName, shortName: chosen.kindName.slice(0, 20) }}
              connect={connect}
              onConnected={(knownAs, id) => {
                setSaid({
                  id,
                  words: `Connected.${knownAs === '' ? '' : ` ${chosen.kindName} knows us as ${knownAs}.`}`,
                });
                setKind(null);
              }}
            />
          </>
        ) : null}
      </div>
    </section>
  );
}
