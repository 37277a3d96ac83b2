import type { Choices } from './use-choices';

interface TickAllProps {
  /** What it ticks, all at once. */
  listings: readonly string[];
  choices: Choices;
  /** What it is called, where no label stands around it. */
  name?: string;
}

/** A box for several: ticked where all of them are, half where some are. */
export function TickAll({ listings: all, choices, name }: TickAllProps) {
  const listings = choices.together(all);
  const on = listings.filter((listing) => choices.isTicked(listing)).length;
  return (
    <input
      type="checkbox"
      aria-label={name}
      checked={on > 0 && on === listings.length}
      disabled={listings.length === 0}
      ref={(input) => {
        if (input) input.indeterminate = on > 0 && on < listings.length;
      }}
      onChange={() => choices.choose(all, on < listings.length)}
    />
  );
}
