'use client';

import { useState } from 'react';
import classes from './ChannelCard.module.css';
import { ConnectForm, type Connect } from './ConnectForm';

interface NewChannelProps {
  kinds: {
    kind: string;
    kindName: string;
    trade: string;
    credentials: readonly { name: string; label: string; secret: boolean }[];
    settingFields: readonly { name: string; label: string; about: string }[];
  }[];
  connect: Connect;
}

/** Connects one more channel: of any kind, and as many of a kind as there are places. */
export function NewChannel({ kinds, connect }: NewChannelProps) {
  const [kind, setKind] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const chosen = kinds.find((one) => one.kind === kind);
  return (
    <section className={classes.channel} aria-label="Connect another channel">
      <header>
        <h2>One more</h2>
        <p>as many of a kind as there are places</p>
      </header>
      <div>
        <div className={classes.kinds}>
          {kinds.map((one) => (
            <button
              key={one.kind}
              type="button"
              className="quietButton"
              aria-pressed={kind === one.kind}
              onClick={() => setKind(kind === one.kind ? null : one.kind)}
            >
              {one.kindName} <small>{one.trade}</small>
            </button>
          ))}
        </div>
        {said === null ? null : <p role="status">{said}</p>}
        {chosen ? (
          <ConnectForm
            key={chosen.kind}
            which={{ kind: chosen.kind }}
            credentials={chosen.credentials}
            settings={chosen.settingFields.map((one) => ({ ...one, value: '' }))}
            address=""
            names={{ name: chosen.kindName, shortName: chosen.kindName.slice(0, 20) }}
            connect={connect}
            onConnected={(knownAs) => {
              setSaid(`Connected. ${chosen.kindName} knows us as ${knownAs}.`);
              setKind(null);
            }}
          />
        ) : null}
      </div>
    </section>
  );
}
