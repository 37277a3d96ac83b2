import { TextInput } from '@mantine/core';
import { useState } from 'react';
import type { ChannelLink } from '@/channels/links';
import type { RecordDraft } from '@/core/record/draft';
import { useChannels } from '@/ui/use-channels';
import { freshPartId, type FieldError } from '../form-parts';
import { TargetField } from './TargetField';
import classes from '../RecordForm.module.css';

interface LinkPlanProps {
  links: readonly ChannelLink[];
  /** Channels that have a use for the event, and say what they show themselves. */
  used: ReadonlySet<string>;
  draft: Pick<RecordDraft, 'linkChoices' | 'notices'>;
  onChange: (part: Partial<RecordDraft>) => void;
  error: FieldError;
}

const keyOf = ({ channel, noticeId }: ChannelLink) => `${channel} ${noticeId ?? ''}`;

function choiceFor({ channel, noticeId }: ChannelLink): RecordDraft['linkChoices'][number] {
  return { id: freshPartId(), channel, noticeId, to: { kind: 'tickets' }, reason: '' };
}

/** Which link goes where, and why that one: for each channel and each notice, with another to be preferred. */
export function LinkPlan(props: LinkPlanProps) {
  const plan = usePlan(props);
  const { rows } = plan;
  if (rows.length === 0) return null;
  return (
    <table className={classes.links} aria-label="Which ticket link goes where">
      <tbody>
        {rows.map((link) => (
          <LinkRow key={keyOf(link)} plan={plan} link={link} />
        ))}
      </tbody>
    </table>
  );
}

/** Where each link leads, and what is chosen for it. */
function usePlan({ links, used, draft, onChange, error }: LinkPlanProps) {
  const channels = useChannels();
  const [open, setOpen] = useState<string | null>(null);
  // Only channels that have a place for a link are told of: one of its own, or the words of a notice.
  const carries = ({ channel, noticeId }: ChannelLink) =>
    noticeId !== null ||
    (used.has(channel) && (channels.of(channel)?.rules.rows.some((row) => row.field === 'link') ?? false));
  const rows = links.filter(
    (link) => carries(link) && (link.choice !== null || link.chosen !== null || link.link.kind !== 'none'),
  );
  const { linkChoices } = draft;
  const named = ({ channel, noticeId }: ChannelLink) => {
    const at = draft.notices.findIndex((notice) => notice.id === noticeId);
    return at < 0 ? channels.name(channel) : `${channels.name(channel)}, post ${at + 1}`;
  };
  return { linkChoices, onChange, named, open, error, setOpen, rows };
}

type Plan = ReturnType<typeof usePlan>;

/** One link: where it goes, and what it leads to by choice. */
function LinkRow({
  plan: { linkChoices, onChange, named, open, error, setOpen },
  link,
}: {
  plan: Plan;
  link: ChannelLink;
}) {
  const key = keyOf(link);
  const own = linkChoices.findIndex((choice) => choice.channel === link.channel && choice.noticeId === link.noticeId);
  const choice = linkChoices[own];
  const put = (part: Partial<NonNullable<typeof choice>>) =>
    onChange({
      linkChoices: choice
        ? linkChoices.map((item) => (item === choice ? { ...item, ...part } : item))
        : [...linkChoices, { ...choiceFor(link), ...part }],
    });
  return (
    <tr>
      <th scope="row">{named(link)}</th>
      <td>
        {link.link.kind === 'known' ? (
          <code>{link.link.href}</code>
        ) : link.link.kind === 'awaited' ? (
          `the ${link.link.gift === 'public address' ? 'address' : 'link'} that ${link.link.name} will give`
        ) : (
          'none'
        )}
      </td>
      <td>
        {whyWords(link)}{' '}
        {open === key ? (
          <div className={classes.inline}>
            <TargetField
              label="leads to"
              to={choice?.to ?? { kind: 'tickets' }}
              without={link.channel}
              error={own < 0 ? undefined : error(`linkChoices.${own}.to.href`)}
              onChange={(to) => put({ to })}
            />
            <TextInput
              style={{ flex: 1, minWidth: 120 }}
              label="Why, for ourselves"
              value={choice?.reason ?? ''}
              onChange={(e) => put({ reason: e.currentTarget.value })}
            />
            {choice ? (
              <button
                type="button"
                className="plainButton"
                onClick={() => {
                  onChange({ linkChoices: linkChoices.filter((candidate) => candidate !== choice) });
                  setOpen(null);
                }}
              >
                as usual
              </button>
            ) : null}
          </div>
        ) : (
          <button
            type="button"
            className="plainButton"
            aria-label={`Choose what ${named(link)} leads to`}
            onClick={() => setOpen(key)}
          >
            choose
          </button>
        )}
      </td>
    </tr>
  );
}

/** `Gatefold; not Pennyseat (gives no link)`, or what a person chose and why. */
function whyWords({ choice, chosen }: ChannelLink): string {
  if (chosen && !chosen.unmet) return `${chosen.words}${chosen.reason === '' ? '' : `: ${chosen.reason}`}`;
  const passed = choice?.passed.map((item) => `${item.outlet} (${item.why})`) ?? [];
  const outlet = choice ? `${choice.outlet}${passed.length > 0 ? `; not ${passed.join(', ')}` : ''}` : '';
  return chosen ? `${chosen.words} has no address; ${outlet || 'nothing'} instead` : outlet;
}
