import type { TicketMode } from '@/core/record/choices';

/** How one gets in, in a word or two. */
export const modeNames: Record<TicketMode, string> = {
  ticketed: 'ticketed',
  registration: 'registration',
  'pay at the door': 'at the door',
  'free entry': 'free entry',
  elsewhere: 'sold elsewhere',
};
