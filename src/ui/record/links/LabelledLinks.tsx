import { Checkbox, Select, TextInput } from '@mantine/core';
import type { LabelledLink } from '@/core/record/record';
import { linkUses } from '@/core/record/choices';
import type { RecordDraft } from '@/core/record/draft';
import { freshPartId, type FieldError } from '../form-parts';
import { TargetField } from './TargetField';
import classes from '../RecordForm.module.css';

interface LabelledLinksProps {
  draft: Pick<RecordDraft, 'links' | 'leadsAway'>;
  onChange: (part: Partial<RecordDraft>) => void;
  error: FieldError;
}

const useWords: Record<LabelledLink['use'], string> = {
  buy: 'buy',
  register: 'register',
  reply: 'reply',
  watch: 'watch',
  more: 'more',
};

/** Links with words of their own, in the order in which they are shown; one of them may be all that an entry is. */
export function LabelledLinks(props: LabelledLinksProps) {
  const list = useLinkChanges(props);
  const { links, onChange } = list;
  return (
    <>
      {links.map((link, i) => (
        <LinkRow key={link.id} list={list} link={link} i={i} />
      ))}
      <div className={classes.inline}>
        <button
          type="button"
          className="plainButton"
          onClick={() =>
            onChange({
              links: [
                ...links,
                { id: freshPartId(), use: 'more', label: '', to: { kind: 'address', href: '' }, newWindow: false },
              ],
            })
          }
        >
          Add a link
        </button>
      </div>
    </>
  );
}

/** What the links are changed with. */
function useLinkChanges({ draft: { links, leadsAway }, onChange, error }: LabelledLinksProps) {
  const set = (id: string, part: Partial<LabelledLink>) =>
    onChange({ links: links.map((link) => (link.id === id ? { ...link, ...part } : link)) });
  const up = (i: number) => {
    const next = [...links];
    const [item] = next.splice(i, 1);
    if (item) next.splice(i - 1, 0, item);
    onChange({ links: next });
  };
  const out = (id: string) =>
    onChange({ links: links.filter((link) => link.id !== id), ...(leadsAway === id ? { leadsAway: null } : {}) });
  return { set, error, leadsAway, onChange, up, out, links };
}

type LinkChanges = ReturnType<typeof useLinkChanges>;

/** One link with its words, and what it leads to. */
function LinkRow({
  list: { set, error, leadsAway, onChange, up, out },
  link,
  i,
}: {
  list: LinkChanges;
  link: LabelledLink;
  i: number;
}) {
  return (
    <div className={classes.inline} role="group" aria-label={`Link ${i + 1}`}>
      <Select
        w={96}
        label="Link to"
        data={linkUses.map((value) => ({ value, label: useWords[value] }))}
        value={link.use}
        allowDeselect={false}
        onChange={(use) => set(link.id, { use: (use ?? 'more') as LabelledLink['use'] })}
      />
      <TextInput
        w={130}
        label="Words"
        value={link.label}
        placeholder="its usual words"
        error={error(`links.${i}.label`)}
        onChange={(e) => set(link.id, { label: e.currentTarget.value })}
      />
      <TargetField
        label="leads to"
        to={link.to}
        error={error(`links.${i}.to.href`)}
        onChange={(to) => set(link.id, { to })}
      />
      <Checkbox
        label="new window"
        checked={link.newWindow}
        onChange={(e) => set(link.id, { newWindow: e.currentTarget.checked })}
      />
      <Checkbox
        label="the entry leads straight there"
        checked={leadsAway === link.id}
        onChange={(e) => onChange({ leadsAway: e.currentTarget.checked ? link.id : null })}
      />
      <span className={classes.rowTools}>
        <button
          type="button"
          className="plainButton"
          disabled={i === 0}
          aria-label={`Link ${i + 1} before the others`}
          onClick={() => up(i)}
        >
          up
        </button>
        <button type="button" className="plainButton" aria-label={`Remove link ${i + 1}`} onClick={() => out(link.id)}>
          remove
        </button>
      </span>
    </div>
  );
}
