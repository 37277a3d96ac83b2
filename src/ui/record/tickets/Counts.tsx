import { shortDate } from '@/core/dates/date-words';
import type { PerformanceFacts } from '@/core/facts/performance-facts';
import { newestCounts, type Count } from '@/core/facts/sales';
import { registrationCount } from '@/core/facts/tickets/registering';
import { useChannels } from '@/ui/use-channels';
import classes from '../RecordForm.module.css';

/** How many came to a channel from one source. */
export interface CameFrom {
  channel: string;
  source: string;
  n: number;
}

interface CountsProps {
  sales: readonly Count[];
  sources: readonly CameFrom[];
  performances: readonly PerformanceFacts[];
  levels: readonly { id: string; name: string }[];
  outlets: readonly { id: string; name: string; channel: string | null }[];
}

/** Lines that are drawn at once. */
const most = 200;

/**
 * What was sold or registered so far: by performance, level and outlet, and from where people came. Nothing, where
 * nothing was counted.
 */
export function Counts({ sales, sources, performances, levels, outlets }: CountsProps) {
  const channels = useChannels();
  const place = new Map(performances.map((performance, i) => [performance.id, i]));
  const counts = newestCounts(sales)
    .filter((count) => count.sold > 0 && place.has(count.performanceId))
    .sort((a, b) => (place.get(a.performanceId) ?? 0) - (place.get(b.performanceId) ?? 0));
  if (counts.length === 0 && sources.length === 0) return null;
  const dateOf = (id: string) => performances[place.get(id) ?? 0]?.date ?? '';
  const levelOf = (id: string) =>
    id === registrationCount ? 'registered' : (levels.find((level) => level.id === id)?.name ?? 'all levels');
  const outletOf = (id: string) =>
    id === registrationCount
      ? 'counted by hand'
      : (outlets.find((outlet) => outlet.channel === id || outlet.id === id)?.name ?? channels.name(id));
  const by = [...new Set(sources.map((source) => source.channel))];
  return (
    <details className={classes.counts}>
      <summary>Counted so far: {counts.reduce((sum, count) => sum + count.sold, 0)}</summary>
      <table>
        <thead>
          <tr>
            <th>Date</th>
            <th>Level</th>
            <th>Where</th>
            <th>Count</th>
          </tr>
        </thead>
        <tbody>
          {counts.slice(0, most).map((count) => (
            <tr key={`${count.performanceId} ${count.levelId} ${count.outlet}`}>
              <td>{dateOf(count.performanceId) === '' ? '' : shortDate(dateOf(count.performanceId))}</td>
              <td>{levelOf(count.levelId)}</td>
              <td>{outletOf(count.outlet)}</td>
              <td>{count.sold}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {counts.length > most ? <p>and {counts.length - most} more lines</p> : null}
      {by.map((id) => (
        <p key={id}>
          To {channels.name(id)} they came from:{' '}
          {sources
            .filter((source) => source.channel === id)
            .map((source) => `${sourceName(source.source, channels)} ${source.n}`)
            .join(' · ')}
        </p>
      ))}
    </details>
  );
}

function sourceName(source: string, channels: ReturnType<typeof useChannels>): string {
  if (source === '' || source === 'nowhere') return 'not known';
  const [channel = '', notice] = source.split('.');
  if (channels.of(channel) === undefined) return source;
  return notice === undefined ? channels.name(channel) : `${channels.name(channel)}, one post`;
}
