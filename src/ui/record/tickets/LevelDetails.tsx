import dynamic from 'next/dynamic';
import { Checkbox, Select, TextInput } from '@mantine/core';
import { buyByCode } from '@/core/record/choices';
import type { LevelDraft, TicketsDraft } from '@/core/record/draft';
import type { Fee } from '@/core/record/ticket-schema';
import { notFetched } from '@/ui/not-fetched';
import { narrow, type FieldError } from '../form-parts';
import { WindowField } from './WindowField';
import classes from '../RecordForm.module.css';

const CoversField = dynamic(() => import('./CoversField').then(({ CoversField }) => CoversField, notFetched));
const FeeHelp = dynamic(() => import('./FeeHelp').then(({ FeeHelp }) => FeeHelp, notFetched));

interface DetailsProps {
  level: LevelDraft;
  at: string;
  error: FieldError;
  pools: TicketsDraft['pools'];
  dates: readonly { value: string; label: string }[];
  set: (part: Partial<LevelDraft>) => void;
  now: number;
  fee: Fee | null;
  /** What the house adds to each ticket, in minor units. */
  service: number | null;
  currency: TicketsDraft['currency'];
  onRemove: () => void;
}

/** The rest of a price level: limits, dates, words, windows, and its fee reckoned backwards. */
export function LevelDetails(props: DetailsProps) {
  const details = useDetails(props);
  const { dates, level, error, at, set, now, onRemove, fee, service, currency } = details;
  return (
    <div className={classes.openRow}>
      <LevelLimits details={details} />
      {dates.length > 1 || level.covers.kind !== 'one' ? (
        <CoversField
          covers={level.covers}
          dates={dates}
          error={error(`${at}.covers`) ?? error(`${at}.covers.ids`)}
          onChange={(covers) => set({ covers })}
        />
      ) : null}
      <TextInput
        mt={8}
        label="What it is, in public words"
        value={level.words}
        placeholder="stalls, unreserved"
        error={error(`${at}.words`)}
        onChange={(e) => set({ words: e.currentTarget.value })}
      />
      <WindowField
        label="On sale from"
        otherwise="at once"
        end={level.opens}
        start={new Date(now).toISOString().slice(0, 10)}
        onChange={(opens) => set({ opens })}
        error={error(`${at}.opens.time`) ?? error(`${at}.opens.date`)}
      />
      <WindowField
        label="On sale until"
        otherwise="when booking closes"
        end={level.closes}
        start={new Date(now).toISOString().slice(0, 10)}
        onChange={(closes) => set({ closes })}
        error={error(`${at}.closes.time`) ?? error(`${at}.closes.date`)}
      />
      <div className={classes.inline}>
        <Checkbox
          label="pay what you like, from the price upwards"
          checked={level.choose}
          onChange={(e) => set({ choose: e.currentTarget.checked })}
        />
        <button type="button" className="plainButton" onClick={onRemove}>
          Remove this price level
        </button>
      </div>
      {fee ? <FeeHelp fee={fee} service={service} currency={currency} onTake={(price) => set({ price })} /> : null}
    </div>
  );
}

/** What is said of a level. */
function useDetails({ level, at, error, pools, dates, set, now, fee, service, currency, onRemove }: DetailsProps) {
  return { level, error, at, set, pools, dates, now, onRemove, fee, service, currency };
}

type Details = ReturnType<typeof useDetails>;

/** How many, for whom, and of which part of the house. */
function LevelLimits({ details: { level, error, at, set, pools } }: { details: Details }) {
  return (
    <div className={classes.grid}>
      <TextInput
        className={classes.w1}
        label="People per ticket"
        value={level.admits}
        {...narrow(error, at, 'admits')}
        onChange={(e) => set({ admits: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w1}
        label="At least"
        value={level.least}
        {...narrow(error, at, 'least')}
        onChange={(e) => set({ least: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w1}
        label="At most"
        value={level.most}
        placeholder="any"
        {...narrow(error, at, 'most')}
        onChange={(e) => set({ most: e.currentTarget.value })}
      />
      <TextInput
        className={classes.w1}
        label="Tax in it, %"
        value={level.taxPercent}
        placeholder="theirs"
        {...narrow(error, at, 'taxPercent')}
        onChange={(e) => set({ taxPercent: e.currentTarget.value })}
      />
      {buyByCode.has(level.buyers) ? (
        <TextInput
          className={classes.w2}
          label="Code"
          value={level.code}
          onChange={(e) => set({ code: e.currentTarget.value })}
        />
      ) : null}
      {pools.length > 0 ? (
        <Select
          className={classes.w2}
          label="Part of the house"
          data={pools.map((pool) => ({ value: pool.id, label: pool.name }))}
          value={level.poolId}
          clearable
          clearSectionMode="clear"
          placeholder="all of it"
          onChange={(poolId) => set({ poolId })}
        />
      ) : null}
    </div>
  );
}
