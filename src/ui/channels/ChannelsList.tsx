import Link from 'next/link';
import type { Standing } from '@/core/listing/standing';
import { Pennant } from '@/ui/pennant';
import classes from './ChannelCard.module.css';

interface ChannelsListProps {
  channels: readonly {
    id: string;
    name: string;
    kindName: string;
    group: string;
    trade: string;
    connection: object | null;
    failing: object | null;
    counts: readonly { standing: Standing; words: string; count: number }[];
  }[];
  /** What each group of trades is called, in their order. */
  groups: Readonly<Record<string, string>>;
  chosen: string | null;
}

/** Every channel by its trade, with its most pressing pennant and how many listings stand how. */
export function ChannelsList({ channels, groups, chosen }: ChannelsListProps) {
  return (
    <nav aria-label="Channels" className={classes.list}>
      {Object.entries(groups).map(([group, title]) => {
        const mine = channels.filter((channel) => channel.group === group);
        return mine.length === 0 ? null : (
          <section key={group} aria-label={title}>
            <h2>{title}</h2>
            {mine.map(({ id, name, trade, connection, failing, counts }) => (
              <Link
                key={id}
                href={`/channels?channel=${id}`}
                aria-current={chosen === id ? 'page' : undefined}
                prefetch={false}
              >
                <Pennant standing={counts[0]?.standing ?? null} silent size={18} />
                <b>{name}</b>
                <span>{trade}</span>
                <small data-off={connection === null || failing !== null || undefined}>
                  {connection === null
                    ? 'taken off'
                    : failing !== null
                      ? 'does not answer'
                      : counts
                          .slice(0, 2)
                          .map((count) => `${count.count} ${count.words}`)
                          .join(' · ')}
                </small>
              </Link>
            ))}
          </section>
        );
      })}
    </nav>
  );
}
