'use client';

import { useForHouse } from '@/ui/may/May';
import dynamic from 'next/dynamic';
import { notFetched } from '@/ui/not-fetched';
import { createContext, memo, useContext, useMemo, useState } from 'react';
import type { SurveyedListing } from '@/core/errands/surveyed';
import { fieldOf } from '@/core/findings/finding';
import type { ChannelRules, FieldRow } from '@/core/listing/channel-rules';
import type { FieldComparison } from '@/core/listing/compare';
import { groupBy } from '@/core/base/group-by';
import { unitOf } from '@/core/listing/channel-rules';
import { countIn } from '@/core/words/fit';
import { splitKey, type ShownValue } from '@/core/listing/shown';
import type { MentionContext } from '@/core/words/mention';
import { FindingLine } from '@/ui/finding-line';
import { CropView } from './CropView';
import { groupNames } from '@/core/listing/groups';
import { Changed } from './Changed';
import { ItemLines } from './ItemLines';
import classes from './ProofColumn.module.css';
import type { SlipProps } from './slip-props';

const ByHand = dynamic(() => import('./ByHand').then(({ ByHand }) => ByHand, notFetched));

/** What facts typed by hand are held against: only who words something by hand follows it. */
export const ListingContext = createContext<MentionContext | null>(null);

/** The listing itself: picture, title, then field by field. */
export function Face(
  props: Omit<SlipProps, 'zone' | 'onDraft' | 'folds'> & { byKey: ReadonlyMap<string, FieldComparison> },
) {
  const face = useFaceState(props);
  const { findings, rules, speaks, field, listing, byKey, byHand, context, overrides, onOverride, setByHand } = face;
  return (
    <div className={classes.face}>
      <Lead face={face} />
      {[...findings('title'), ...findings('picture')].map((finding) => (
        <FindingLine key={fieldOf(finding) + finding.code} finding={finding} />
      ))}
      <dl className={classes.fields}>
        {rules.rows
          .filter((row) => !leads(row, rules) && !listed(row) && (!quiet.has(row.field) || speaks(row.field)))
          .map(field)}
        {groupNames.map((group) => (
          <ItemLines
            key={group}
            rows={rules.rows.filter((row) => row.each === group && listed(row))}
            proof={listing.proof}
            byKey={byKey}
          />
        ))}
      </dl>
      {byHand !== null && context !== null ? (
        <ByHand
          key={byHand}
          listing={listing}
          field={byHand}
          rules={rules}
          override={overrides.find((override) => override.channel === rules.id && override.field === byHand) ?? null}
          context={context}
          onOverride={(next) => onOverride(rules.id, byHand, next)}
          onClose={() => setByHand(null)}
        />
      ) : null}
    </div>
  );
}

/** What a listing shows, as its public sees it. */
function useFaceState({
  listing,
  channel,
  pictures,
  byKey,
  overrides,
  onOverride,
}: Omit<SlipProps, 'zone' | 'onDraft' | 'folds'> & { byKey: ReadonlyMap<string, FieldComparison> }) {
  const [byHand, setByHand] = useState<string | null>(null);
  const context = useContext(ListingContext);
  const { rules } = channel;
  const { picture, title } = listing.proof;
  const findings = (name: string) => listing.findings.filter((finding) => fieldOf(finding) === name);
  const keys = useMemo(() => groupBy(Object.keys(listing.proof), (key) => splitKey(key).field), [listing.proof]);
  const field = (row: FieldRow) => (
    <Field
      key={row.field}
      row={row}
      said={(keys.get(row.field) ?? noKeys).map((key) => [key, listing.proof[key], byKey.get(key)])}
      rules={rules}
      findings={findings(row.field)}
      onByHand={setByHand}
    />
  );
  // A quiet field is shown once the channel shows something else than was sent.
  const speaks = (name: string) =>
    name !== 'title' && name !== 'picture' && ['drifted', 'at-odds'].includes(byKey.get(name)?.outcome ?? '');
  return {
    rules,
    picture,
    pictures,
    title,
    byKey,
    setByHand,
    field,
    findings,
    speaks,
    listing,
    byHand,
    context,
    overrides,
    onOverride,
  };
}

type FaceState = ReturnType<typeof useFaceState>;

/** Its picture, its title, and what stands first. */
function Lead({ face: { rules, picture, pictures, title, byKey, setByHand, field } }: { face: FaceState }) {
  const mayWord = useForHouse();
  return (
    <div className={classes.lead} data-plain={rules.picture === null || undefined}>
      {rules.picture === null ? null : (
        <CropView
          value={picture?.kind === 'picture' ? picture : null}
          pictures={pictures}
          ratio={rules.picture.ratio}
        />
      )}
      <div>
        {title === undefined ? null : (
          <p className={classes.title}>
            <Changed value={title} comparison={byKey.get('title')} />{' '}
            {mayWord ? (
              <button
                type="button"
                className={classes.byHand}
                aria-label={`Word the title for ${rules.name} by hand`}
                onClick={() => setByHand('title')}
              >
                by hand
              </button>
            ) : null}
          </p>
        )}
        <Count row={rules.rows.find((row) => row.field === 'title')} value={title} />
        <dl className={classes.fields}>{rules.rows.filter((row) => leads(row, rules)).map(field)}</dl>
      </div>
    </div>
  );
}

const noKeys: readonly string[] = [];

/** Of these an item is a line; performances and price levels have a line a field. */
export function listed({ each }: FieldRow): boolean {
  return each !== 'event' && each !== 'performance' && each !== 'level';
}

/** The facts that are looked at first stand beside the picture. */
const leading: ReadonlySet<string> = new Set(['doors', 'start', 'end']);

/** Of a notice, its words stand there. */
function leads({ field }: FieldRow, { notice }: ChannelRules): boolean {
  return leading.has(field) || (notice !== null && field === 'body');
}

/** Fields that have their own place, or say only what the pennant says. */
const quiet: ReadonlySet<string> = new Set(['title', 'picture', 'listed', 'tickets-shown', 'publisher']);

const isOff = (value: ShownValue | undefined) => value?.kind === 'flag' && !value.on;

interface FieldProps {
  row: FieldRow;
  /** Its keys in the proof, with what is said there and how it compares: one, or one for each performance or level. */
  said: readonly (readonly [key: string, value: ShownValue | undefined, comparison: FieldComparison | undefined])[];
  rules: ChannelRules;
  findings: SurveyedListing['findings'];
  onByHand: (field: string) => void;
}

const Field = memo(function Field({ row, said, rules, findings, onByHand }: FieldProps) {
  const mayWord = useForHouse();
  // What is off, there as here, is not worth a line.
  const told = said.filter(([, value, comparison]) => !isOff(value) || (comparison?.outcome ?? 'same') !== 'same');
  const shown = told.slice(0, 4);
  if (told.length === 0 && findings.length === 0) return null;
  return (
    <>
      {shown.map(([key, value, comparison], i) => (
        <div key={key} className={classes.field}>
          <dt>{i === 0 ? row.label : ''}</dt>
          <dd>
            <Changed value={value} comparison={comparison} />
            <Count row={row} value={value} />
            {mayWord && canBeWorded(row, rules) && i === 0 ? (
              <button
                type="button"
                className={classes.byHand}
                aria-label={`Word the ${row.label} for ${rules.name} by hand`}
                onClick={() => onByHand(row.field)}
              >
                by hand
              </button>
            ) : null}
          </dd>
        </div>
      ))}
      {told.length > shown.length ? (
        <div className={classes.field}>
          <dt />
          <dd>and {told.length - shown.length} more</dd>
        </div>
      ) : null}
      {findings.map((finding) => (
        <div key={finding.code} className={classes.field}>
          <dt />
          <dd>
            <FindingLine finding={finding} {...(shown.length === 0 ? { about: row.label } : {})} />
          </dd>
        </div>
      ))}
    </>
  );
}, saysTheSame);

/** True where a field is drawn as it was: the same objects at the same places. */
function saysTheSame(a: FieldProps, b: FieldProps): boolean {
  return (
    a.row === b.row &&
    a.rules === b.rules &&
    a.onByHand === b.onByHand &&
    sameItems(a.findings, b.findings) &&
    a.said.length === b.said.length &&
    a.said.every((candidate, i) => sameItems(candidate, b.said[i] ?? []))
  );
}

function sameItems(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a.length === b.length && a.every((candidate, i) => Object.is(candidate, b[i]));
}

/** Words can be put by hand in the place of words; facts cannot, and a notice is words of its own. */
function canBeWorded(row: FieldRow, { notice }: ChannelRules): boolean {
  return (
    notice === null && row.each === 'event' && (row.kind === 'text' || row.kind === 'rich') && wordFields.has(row.field)
  );
}

const wordFields: ReadonlySet<string> = new Set([
  'title',
  'subtitle',
  'teaser',
  'body',
  'line-up',
  'turn',
  'good-to-know',
]);

function Count({ row, value }: { row: FieldRow | undefined; value: ShownValue | undefined }) {
  if (row?.limit === undefined || value?.kind !== 'text') return null;
  return (
    <span className={classes.count}>
      {countIn(value.text, unitOf(row))} of {row.limit}
    </span>
  );
}
