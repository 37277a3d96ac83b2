import { Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { priceText } from '@/core/record/draft';
import { moneyWords, parsePrice, type Currency } from '@/core/base/money';
import type { Fee } from '@/core/record/ticket-schema';
import { faceFor, type FeeAim, type FeeSplit } from '@/core/facts/tickets/fees';
import classes from '../RecordForm.module.css';

interface FeeHelpProps {
  fee: Fee;
  /** What the house adds to each ticket, in minor units. */
  service: number | null;
  currency: Currency;
  /** Takes a face value into the price level, as typed. */
  onTake: (price: string) => void;
}

/** The fee reckoned backwards: which face value makes the buyer pay, or the house keep, just so much. */
export function FeeHelp({ fee, service, currency, onTake }: FeeHelpProps) {
  const [aim, setAim] = useState<FeeAim>('buyerPays');
  const [typed, setTyped] = useState('');
  const target = parsePrice(typed, currency);
  const found = target === null || target === 0 ? null : faceFor(aim, target, fee, service);
  const offer = (split: FeeSplit) => (
    <button
      key={split.face}
      type="button"
      className="plainButton"
      onClick={() => onTake(priceText(split.face, currency))}
    >
      {moneyWords(split.face, currency)}: the buyer pays {moneyWords(split.buyerPays, currency)}, the house keeps{' '}
      {moneyWords(split.net, currency)}
    </button>
  );
  return (
    <div className={classes.inline}>
      <Select
        w={170}
        label="Reckon the price so that"
        data={[
          { value: 'buyerPays', label: 'the buyer pays' },
          { value: 'net', label: 'the house keeps' },
        ]}
        value={aim}
        allowDeselect={false}
        onChange={(value) => setAim(value === 'net' ? 'net' : 'buyerPays')}
      />
      <TextInput
        w={80}
        label="exactly"
        value={typed}
        error={typed !== '' && target === null ? 'Write it like 20 or 20.50.' : undefined}
        onChange={(e) => setTyped(e.currentTarget.value)}
      />
      {found?.kind === 'exact' ? offer(found.split) : null}
      {found?.kind === 'between' ? (
        <span>
          No price gives just that. {found.below ? offer(found.below) : null} or {offer(found.above)}
        </span>
      ) : null}
    </div>
  );
}
