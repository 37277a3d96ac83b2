import type { FormSection } from '@/core/findings/section-of';

/** Where something is done: a section of a record with the fold in it, or a screen of its own. */
type Where = { section: FormSection | 'history'; fold?: string } | { href: string; name: string };

/** A word as people look for it: what it means, and where it is done. */
export interface Entry {
  word: string;
  /** Other words that it is looked for by. */
  also?: string;
  means: string;
  where: Where;
}

const more = {
  essentials: 'organiser, tour, tags',
  date: 'open dates, status',
  programme: 'programme: parts',
  words: 'line, short text, access',
  documents: 'documents that go with it',
  follow: 'words for what is not known yet',
  booking: 'limits, end of booking',
  extras: 'extras and coupons',
  questions: 'questions to those who',
  outlets: 'outlets and fees',
  narrower: 'for members or a group',
  links: 'links with words of their own',
  after: 'after the show',
  end: 'cut the tie to a channel',
} as const;

/** What is looked for by word, in the order in which it is offered. */
export const glossary: readonly Entry[] = [
  {
    word: 'access',
    also: 'wheelchair step-free',
    means: 'How one gets in who cannot take stairs, hear or see well.',
    where: { section: 'words', fold: more.words },
  },
  {
    word: 'age guidance',
    also: 'children from years',
    means: 'From which age it is.',
    where: { section: 'words', fold: more.words },
  },
  {
    word: 'allocation',
    also: 'seats outlet given out',
    means: 'Seats that an outlet has for sale, out of those that there are.',
    where: { section: 'tickets', fold: more.outlets },
  },
  {
    word: 'announce moment',
    also: 'embargo hold publish later',
    means: 'Before it nothing of the event leaves the house.',
    where: { section: 'publicity' },
  },
  {
    word: 'cancel',
    also: 'called off',
    means: 'It does not take place; every channel says so, and it stays where it stands.',
    where: { section: 'top' },
  },
  {
    word: 'category',
    also: 'kind of event',
    means: 'Each channel has its own; kinds of event are mapped to them on its card.',
    where: { href: '/channels', name: 'Channels' },
  },
  {
    word: 'channel',
    also: 'connect account',
    means: 'A place where events stand: a website, a marketplace, a social page, a calendar, letters.',
    where: { href: '/channels', name: 'Channels' },
  },
  {
    word: 'clash',
    also: 'double booking',
    means: 'Two things that cannot both be, or one that cannot be right.',
    where: { href: '/clashes', name: 'Clashes' },
  },
  {
    word: 'copy',
    also: 'again next year',
    means: 'The next event from this one, with what it carries over marked.',
    where: { section: 'top' },
  },
  {
    word: 'coupon',
    also: 'discount code',
    means: 'A code that takes a per cent or an amount off.',
    where: { section: 'tickets', fold: more.extras },
  },
  { word: 'credit', also: 'photographer picture by', means: 'Whose a picture is.', where: { section: 'picture' } },
  { word: 'currency', also: 'money euro', means: 'What the prices are in.', where: { section: 'tickets' } },
  {
    word: 'cut the tie',
    also: 'let go',
    means: 'What stands on a channel stays as it is, and is not ours any more.',
    where: { section: 'history', fold: more.end },
  },
  {
    word: 'delete',
    also: 'remove record',
    means: 'For good, while nothing of it was outside; else it is put away.',
    where: { section: 'history', fold: more.end },
  },
  {
    word: 'dispatch',
    also: 'send',
    means: 'One yes to a list of errands, by one person at one moment.',
    where: { href: '/dispatch', name: 'Dispatch' },
  },
  {
    word: 'documents',
    also: 'file pdf press',
    means: 'Files that go with the event, each with who may see it.',
    where: { section: 'words', fold: more.documents },
  },
  { word: 'doors', means: 'When the public is let in.', where: { section: 'dates' } },
  {
    word: 'draft on a channel',
    means: 'All of it is kept there, and nobody sees it yet.',
    where: { section: 'publicity', fold: more.narrower },
  },
  {
    word: 'errand',
    means: 'One change to one listing, with its receipt.',
    where: { href: '/dispatch', name: 'Dispatch' },
  },
  {
    word: 'extras',
    also: 'meal shirt',
    means: 'Sold with a ticket, admits nobody.',
    where: { section: 'tickets', fold: more.extras },
  },
  {
    word: 'fee',
    also: 'service charge',
    means: 'What an outlet adds to the price, or takes out of it.',
    where: { section: 'tickets', fold: more.outlets },
  },
  {
    word: 'file',
    also: 'import csv ical calendar spreadsheet',
    means: 'Events from a table, a calendar or a file of ours become records.',
    where: { href: '/import', name: 'Read a file' },
  },
  {
    word: 'film',
    also: 'video trailer',
    means: 'Its address; it plays where a channel has one.',
    where: { section: 'essentials', fold: more.essentials },
  },
  {
    word: 'gift',
    means: 'A value that one channel makes and others await, such as the ticket link.',
    where: { section: 'publicity' },
  },
  {
    word: 'hashtags',
    means: 'Written behind posts, where an account has them.',
    where: { section: 'essentials', fold: more.essentials },
  },
  {
    word: 'held seats',
    also: 'holds',
    means: 'Seats that are not for sale: press, crew, sight lines.',
    where: { section: 'tickets', fold: more.outlets },
  },
  {
    word: 'house’s own',
    also: 'usual defaults zone',
    means: 'What a new record begins with: venue, organiser, zone, doors, age, access, refunds.',
    where: { href: '/directory', name: 'Directory' },
  },
  {
    word: 'letter',
    also: 'mail newsletter',
    means: 'Goes to those who asked for it, with a subject of its own.',
    where: { section: 'notices' },
  },
  {
    word: 'line-up',
    also: 'act artist support',
    means: 'Who is on, in which role, in which order.',
    where: { section: 'line-up' },
  },
  {
    word: 'links',
    also: 'button watch more',
    means: 'Several, each with words of its own.',
    where: { section: 'publicity', fold: more.links },
  },
  { word: 'listing', means: 'What stands about an event on one channel.', where: { section: 'publicity' } },
  {
    word: 'lock',
    means: 'What a channel does not let be changed any more, with the ways through.',
    where: { href: '/dispatch', name: 'Dispatch' },
  },
  {
    word: 'members',
    also: 'group audience for some',
    means: 'Who it is for: it goes nowhere but to channels that are for them.',
    where: { section: 'publicity', fold: more.narrower },
  },
  {
    word: 'members’ price',
    means: 'How members show that they are, beside their price.',
    where: { section: 'tickets', fold: more.booking },
  },
  {
    word: 'merge duplicates',
    also: 'twice same venue',
    means: 'Two entries of the Directory become one, everywhere.',
    where: { href: '/directory', name: 'Directory' },
  },
  {
    word: 'move',
    also: 'another venue place',
    means: 'It takes place elsewhere; what was said of the old town is asked about.',
    where: { section: 'top' },
  },
  {
    word: 'note on a date',
    also: 'relaxed performance',
    means: 'What sets one date apart.',
    where: { section: 'dates', fold: more.date },
  },
  {
    word: 'online',
    also: 'stream webinar',
    means: 'Where one keeps a place (public), and where one joins (never public).',
    where: { section: 'essentials', fold: more.essentials },
  },
  {
    word: 'open date',
    also: 'to be announced month',
    means: 'How much of the date is known.',
    where: { section: 'dates', fold: more.date },
  },
  {
    word: 'organiser',
    also: 'presented by promoter',
    means: 'Who puts it on; on a tour’s date the local promoter.',
    where: { section: 'essentials', fold: more.essentials },
  },
  {
    word: 'outlet',
    also: 'seller box office',
    means: 'Where tickets are sold, each with its link, seats and fee.',
    where: { section: 'tickets', fold: more.outlets },
  },
  {
    word: 'pass',
    also: 'season ticket several dates',
    means: 'One purchase that lets in to several dates: open a price level, and say which.',
    where: { section: 'tickets' },
  },
  {
    word: 'pattern',
    also: 'every week series rule',
    means: 'Dates by a rule, or pasted.',
    where: { section: 'dates' },
  },
  {
    word: 'pencilled',
    also: 'hold tentative',
    means: 'Only held: it stays in the house.',
    where: { section: 'essentials' },
  },
  { word: 'pin', means: 'A post that stays on top of a page, until it lapses.', where: { section: 'notices' } },
  {
    word: 'post',
    also: 'social notice',
    means: 'A short word about the event on a social place, beside its listing.',
    where: { section: 'notices' },
  },
  {
    word: 'postpone',
    also: 'new date reschedule',
    means: 'To a new date, or to one that is to follow.',
    where: { section: 'top' },
  },
  {
    word: 'price level',
    also: 'reduced concession ticket',
    means: 'What one pays, for whom, from when until when.',
    where: { section: 'tickets' },
  },
  {
    word: 'programme',
    also: 'speakers films times',
    means: 'Parts with times of their own.',
    where: { section: 'line-up', fold: more.programme },
  },
  { word: 'proof', means: 'What every channel will say, beside the form, as one types.', where: { section: 'top' } },
  {
    word: 'put away',
    also: 'archive',
    means: 'It leaves the season and is found under “Put away”.',
    where: { section: 'history', fold: more.end },
  },
  {
    word: 'questions',
    also: 'ask buyers consent',
    means: 'What is asked of those who order or register.',
    where: { section: 'tickets', fold: more.questions },
  },
  {
    word: 'radius clause',
    means: 'No other show of the headliner so near in place and time.',
    where: { section: 'essentials', fold: more.essentials },
  },
  {
    word: 'read-back',
    also: 'check in step drift',
    means: 'Reading what a channel shows and holding it against what was sent.',
    where: { href: '/read-back', name: 'Read-back' },
  },
  {
    word: 'recording',
    also: 'after pictures set list',
    means: 'What there is after the show, shown once you say so.',
    where: { section: 'publicity', fold: more.after },
  },
  {
    word: 'refunds',
    also: 'money back',
    means: 'What one gets back, and until when.',
    where: { section: 'tickets', fold: more.outlets },
  },
  {
    word: 'registration',
    also: 'sign up places waiting list',
    means: 'One gets in by name, with or without a waiting list.',
    where: { section: 'tickets' },
  },
  {
    word: 'room',
    also: 'capacity set-up',
    means: 'Rooms of a venue with how many each holds.',
    where: { href: '/directory', name: 'Directory' },
  },
  {
    word: 'several days',
    also: 'festival exhibition last day',
    means: 'The last day of a date that goes on for days.',
    where: { section: 'dates', fold: more.date },
  },
  { word: 'sold out', means: 'Of one date, by a person’s word.', where: { section: 'dates', fold: more.date } },
  { word: 'tax', means: 'Whether prices are told with it.', where: { section: 'tickets', fold: more.booking } },
  {
    word: 'ticket link',
    also: 'buy',
    means: 'Where it is sold: given by the seller, or typed.',
    where: { section: 'tickets' },
  },
  {
    word: 'to follow',
    also: 'tba words',
    means: 'What the public reads where a fact is not known yet.',
    where: { section: 'words', fold: more.follow },
  },
  {
    word: 'tour',
    means: 'Dates that share their words, pictures and line-up.',
    where: { href: '/tours', name: 'Tours' },
  },
  {
    word: 'venue',
    also: 'address place',
    means: 'Where it is: name, street, town, rooms.',
    where: { href: '/directory', name: 'Directory' },
  },
  {
    word: 'zone',
    also: 'time abroad',
    means: 'Whose clock the times are by: the venue’s.',
    where: { section: 'dates' },
  },
];

/** Entries that a typed word finds, those that begin with it first. Everything, where nothing is typed. */
export function lookUp(typed: string): readonly Entry[] {
  const word = typed.trim().toLowerCase();
  if (word === '') return glossary;
  const rank = ({ word: own, also = '', means }: Entry): number => {
    if (own.startsWith(word)) return 0;
    if (own.includes(word)) return 1;
    if (` ${also}`.includes(` ${word}`)) return 2;
    return word.length > 2 && means.toLowerCase().includes(word) ? 3 : 4;
  };
  return glossary.filter((entry) => rank(entry) < 4).toSorted((a, b) => rank(a) - rank(b));
}
