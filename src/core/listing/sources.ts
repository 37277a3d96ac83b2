import { addDays, toLocal } from '../base/zones';
import { doorsDate, whichOfTwo } from '../dates/readings';
import type { Performance, RecordContent } from '../record/record';
import { ownFigures, shownFigures } from '../words/figures';
import { cleanHtml } from '../words/markup';
import { noticePart } from './parts';
import type { ShownValue } from './shown';

/** Where a value stands: the item it belongs to, the channel that showed it, and which of its listings. */
interface SourceContext {
  item: string | null;
  channel: string;
  part: number;
  /** The instant that is shown there, worked out by the facts; `null`: none. */
  shown: ShownValue | undefined;
}

/**
 * A place in the record from which a shown value comes, with the way back into it. `get` gives what it would show by
 * itself;
 * `set` gives the record with the value in its place, or `null` where it cannot be put there.
 */
export interface Source {
  /** What it is called: `the short title`. */
  name: string;
  get(content: RecordContent, context: SourceContext): ShownValue | null;
  set(content: RecordContent, value: ShownValue, context: SourceContext): RecordContent | null;
}

function plain(text: string): ShownValue | null {
  return text.trim() === '' ? null : { kind: 'text', text: text.trim() };
}

/** A single line of the record itself. */
function line(name: string, key: 'title' | 'shortTitle' | 'subtitle'): Source {
  return {
    name,
    get: (content) => plain(content[key]),
    set: (content, value) => (value.kind === 'text' ? { ...content, [key]: value.text } : null),
  };
}

/** One of the lengths of the record's words, in plain text. */
function words(name: string, key: 'line' | 'teaser' | 'short' | 'access' | 'age'): Source {
  return {
    name,
    get: (content) => plain(content.words[key]),
    set: (content, value) =>
      value.kind === 'text' ? { ...content, words: { ...content.words, [key]: value.text } } : null,
  };
}

const fullText: Source = {
  name: 'the full text',
  get: ({ words: { full }, pictures }) =>
    full === '' ? null : { kind: 'rich', html: cleanHtml(shownFigures(full, pictures).html) },
  set: (content, value) =>
    value.kind === 'rich'
      ? { ...content, words: { ...content.words, full: cleanHtml(ownFigures(value.html, content.pictures)) } }
      : null,
};

/** A change to one performance. `change` gives `null` where the value cannot be put there. */
function ofPerformance(name: string, change: (performance: Performance, at: number) => Performance | null): Source {
  return {
    name,
    // What is shown is worked out from several facts; whether it comes from here is told by the proof that follows.
    get: (_, { shown }) => shown ?? null,
    set: (content, value, { item }) => {
      const performance = content.performances.find((candidate) => candidate.id === item);
      if (!performance || value.kind !== 'instant' || performance.precision !== 'exact') return null;
      const moved = change(performance, value.at);
      if (moved === null) return null;
      const repeat = whichOfTwo(value.at, performance.zone);
      const settled = repeat === null ? moved : { ...moved, repeat };
      return {
        ...content,
        performances: content.performances.map((night) => (night === performance ? settled : night)),
      };
    },
  };
}

const start = ofPerformance('the start', (performance, at) => {
  const { date, time } = toLocal(at, performance.zone);
  return { ...performance, date, start: time, repeat: whichOfTwo(at, performance.zone) };
});

const end = ofPerformance('the end', (performance, at) => {
  const { date, time } = toLocal(at, performance.zone);
  if (performance.lastDate !== null)
    return date < performance.date ? null : { ...performance, lastDate: date, end: time };
  if (date !== performance.date && date !== addDays(performance.date, 1)) return null;
  return { ...performance, end: time, endsNextDay: date !== performance.date };
});

const doors = ofPerformance('the doors', (performance, at) => {
  const { date, time } = toLocal(at, performance.zone);
  const moved = { ...performance, doors: time };
  return doorsDate(moved) === date ? moved : null;
});

const note: Source = {
  name: 'the note on this date',
  get: ({ performances }, { item }) => plain(performances.find((performance) => performance.id === item)?.note ?? ''),
  set: (content, value, { item }) =>
    value.kind === 'text'
      ? {
          ...content,
          performances: content.performances.map((performance) =>
            performance.id === item ? { ...performance, note: value.text } : performance,
          ),
        }
      : null,
};

const price: Source = {
  name: 'the price level',
  get: ({ tickets: { levels, currency } }, { item }) => {
    const level = levels.find((level) => level.id === item);
    return level ? { kind: 'price', name: level.name, minor: level.price, currency } : null;
  },
  set: (content, value, { item }) => {
    if (value.kind !== 'price' || value.currency !== content.tickets.currency) return null;
    const levels = content.tickets.levels.map((level) =>
      level.id === item ? { ...level, name: value.name, price: value.minor } : level,
    );
    return { ...content, tickets: { ...content.tickets, levels } };
  },
};

const allocation: Source = {
  name: 'the seats given to this outlet',
  get: ({ tickets: { outlets } }, { channel }) => {
    const n = outlets.find((outlet) => outlet.channel === channel)?.allocation ?? null;
    return n === null ? null : { kind: 'count', n };
  },
  set: (content, value, { channel }) =>
    value.kind === 'count'
      ? {
          ...content,
          tickets: {
            ...content.tickets,
            outlets: content.tickets.outlets.map((outlet) =>
              outlet.channel === channel ? { ...outlet, allocation: value.n } : outlet,
            ),
          },
        }
      : null,
};

const quantity: Source = {
  name: 'the quantity of the price level',
  get: ({ tickets: { levels } }, { item }) => {
    const n = levels.find((level) => level.id === item)?.quantity ?? null;
    return n === null ? null : { kind: 'count', n };
  },
  set: (content, value, { item }) =>
    value.kind === 'count'
      ? {
          ...content,
          tickets: {
            ...content.tickets,
            levels: content.tickets.levels.map((level) =>
              level.id === item ? { ...level, quantity: value.n } : level,
            ),
          },
        }
      : null,
};

const noticeOf = (content: RecordContent, { channel, part }: SourceContext) =>
  content.notices.find((notice) => notice.channel === channel && noticePart(notice.id) === part);

const noticeWords: Source = {
  name: 'the words of the notice',
  // A notice is shown nowhere else: what is taken replaces its words, tokens and all.
  get: (_, { shown }) => shown ?? null,
  set: (content, value, context) => {
    const notice = noticeOf(content, context);
    if (!notice || value.kind !== 'text') return null;
    return {
      ...content,
      notices: content.notices.map((item) => (item === notice ? { ...item, words: value.text } : item)),
    };
  },
};

const noticePin: Source = {
  name: 'the pin of the notice',
  get: (content, context) => {
    const notice = noticeOf(content, context);
    return notice ? { kind: 'flag', on: notice.pin } : null;
  },
  set: (content, value, context) => {
    const notice = noticeOf(content, context);
    if (!notice || value.kind !== 'flag') return null;
    return {
      ...content,
      notices: content.notices.map((item) => (item === notice ? { ...item, pin: value.on } : item)),
    };
  },
};

const tags: Source = {
  name: 'the tags',
  get: (content) => plain(content.tags.join(', ')),
  set: (content, value) =>
    value.kind === 'text'
      ? {
          ...content,
          tags: value.text
            .split(',')
            .map((text) => text.trim())
            .filter((candidate) => candidate !== ''),
        }
      : null,
};

/** A text of one item of a list of the record. `list` finds the list, `put` gives the record with another. */
function itemText<T extends { id: string }>(
  name: string,
  key: string,
  list: (content: RecordContent) => readonly T[],
  put: (content: RecordContent, items: T[]) => RecordContent,
): Source {
  return {
    name,
    get: (content, { item }) => {
      const entry = list(content).find((candidate) => candidate.id === item) as Record<string, unknown> | undefined;
      const found = entry?.[key];
      return typeof found === 'string' ? plain(found) : null;
    },
    set: (content, value, { item }) =>
      value.kind === 'text'
        ? put(
            content,
            list(content).map((entry) => (entry.id === item ? { ...entry, [key]: value.text } : entry)),
          )
        : null,
  };
}

/** A number of one item of a list of the tickets. */
function itemCount<K extends 'levels' | 'extras' | 'coupons'>(name: string, list: K, key: string): Source {
  return {
    name,
    get: ({ tickets }, { item }) => {
      const entry = tickets[list].find((candidate) => candidate.id === item) as Record<string, unknown> | undefined;
      const n = entry?.[key];
      return typeof n === 'number' ? { kind: 'count', n } : null;
    },
    set: (content, value, { item }) =>
      value.kind === 'count'
        ? {
            ...content,
            tickets: {
              ...content.tickets,
              [list]: content.tickets[list].map((entry) => (entry.id === item ? { ...entry, [key]: value.n } : entry)),
            },
          }
        : null,
  };
}

const extraPrice: Source = {
  name: 'the price of the extra',
  get: ({ tickets: { extras, currency } }, { item }) => {
    const extra = extras.find((extra) => extra.id === item);
    return extra ? { kind: 'price', name: extra.name, minor: extra.price, currency } : null;
  },
  set: (content, value, { item }) =>
    value.kind === 'price' && value.currency === content.tickets.currency
      ? {
          ...content,
          tickets: {
            ...content.tickets,
            extras: content.tickets.extras.map((extra) =>
              extra.id === item ? { ...extra, name: value.name, price: value.minor } : extra,
            ),
          },
        }
      : null,
};

/** A number of the tickets as a whole. */
function ticketCount(name: string, key: 'mostPerOrder' | 'total' | 'showLeft'): Source {
  return {
    name,
    get: ({ tickets }) => {
      const n = tickets[key];
      return n === null ? null : { kind: 'count', n };
    },
    set: (content, value) =>
      value.kind === 'count' ? { ...content, tickets: { ...content.tickets, [key]: value.n } } : null,
  };
}

const ofTickets =
  <K extends 'levels' | 'extras' | 'questions' | 'coupons'>(key: K) =>
  (content: RecordContent, items: RecordContent['tickets'][K]): RecordContent => ({
    ...content,
    tickets: { ...content.tickets, [key]: items },
  });

const programmeText = (name: string, key: 'title' | 'names' | 'room') =>
  itemText(
    name,
    key,
    (c) => c.programme,
    (c, programme) => ({ ...c, programme }),
  );

const recording: Source = {
  name: 'the address of the recording',
  get: ({ after: { recording } }) =>
    recording.shown && recording.href !== null ? { kind: 'url', href: recording.href } : null,
  set: (content, value) =>
    value.kind === 'url'
      ? { ...content, after: { ...content.after, recording: { href: value.href, shown: true } } }
      : null,
};

const setList: Source = {
  name: 'the set list',
  get: ({ after: { setList } }) => (setList.shown ? plain(setList.text) : null),
  set: (content, value) =>
    value.kind === 'text'
      ? { ...content, after: { ...content.after, setList: { text: value.text, shown: true } } }
      : null,
};

const film: Source = {
  name: 'the address of the film',
  get: ({ video }) => (video === null ? null : { kind: 'url', href: video }),
  set: (content, value) => (value.kind === 'url' ? { ...content, video: value.href } : null),
};

const sound: Source = {
  name: 'the address of what is to be heard',
  get: (content) => (content.sound === null ? null : { kind: 'url', href: content.sound }),
  set: (content, value) => (value.kind === 'url' ? { ...content, sound: value.href } : null),
};

const refunds: Source = {
  name: 'the refund terms',
  get: ({ tickets }) => plain(tickets.refunds),
  set: (content, value) =>
    value.kind === 'text' ? { ...content, tickets: { ...content.tickets, refunds: value.text } } : null,
};

/** What is written to somebody who registered. */
function answerTo(name: string, key: 'yes' | 'no' | 'waiting'): Source {
  return {
    name,
    get: ({ tickets: { registration } }) => plain(registration[key]),
    set: (content, value) =>
      value.kind === 'text'
        ? {
            ...content,
            tickets: { ...content.tickets, registration: { ...content.tickets.registration, [key]: value.text } },
          }
        : null,
  };
}

const linkAddress: Source = {
  name: 'the address of the link',
  get: ({ links }, { item }) => {
    const to = links.find((link) => link.id === item)?.to;
    return to?.kind === 'address' ? { kind: 'url', href: to.href } : null;
  },
  set: (content, value, { item }) =>
    value.kind === 'url'
      ? {
          ...content,
          links: content.links.map((link) =>
            link.id === item ? { ...link, to: { kind: 'address', href: value.href } } : link,
          ),
        }
      : null,
};

const keepAddress: Source = {
  name: 'the address where one keeps a place',
  get: ({ online }) => (online?.keep ? { kind: 'url', href: online.keep } : null),
  set: (content, value) =>
    value.kind === 'url' && content.online !== null
      ? { ...content, online: { ...content.online, keep: value.href } }
      : null,
};

/** Every place in the record that a shown value can be taken back into. */
export const sources = {
  title: line('the title', 'title'),
  shortTitle: line('the short title', 'shortTitle'),
  subtitle: line('the subtitle', 'subtitle'),
  line: words('the line', 'line'),
  teaser: words('the teaser', 'teaser'),
  short: words('the short text', 'short'),
  access: words('the access note', 'access'),
  age: words('the age note', 'age'),
  fullText,
  start,
  end,
  doors,
  note,
  price,
  allocation,
  quantity,
  noticeWords,
  noticePin,
  tags,
  keepAddress,
  recording,
  setList,
  film,
  sound,
  refunds,
  answerYes: answerTo('the words for a yes', 'yes'),
  answerNo: answerTo('the words for a no', 'no'),
  answerWaiting: answerTo('the words for who waits', 'waiting'),
  linkAddress,
  orderLimit: ticketCount('the most in one order', 'mostPerOrder'),
  showLeft: ticketCount('from how few on seats left are told', 'showLeft'),
  total: ticketCount('the most seats over all levels', 'total'),
  levelWords: itemText('the words of the price level', 'words', (c) => c.tickets.levels, ofTickets('levels')),
  extraPrice,
  extraQuantity: itemCount('the quantity of the extra', 'extras', 'quantity'),
  least: itemCount('the least in one order', 'levels', 'least'),
  admits: itemCount('the people per ticket', 'levels', 'admits'),
  most: itemCount('the most in one order', 'levels', 'most'),
  levelCode: itemText('the code of the price level', 'code', (c) => c.tickets.levels, ofTickets('levels')),
  coupon: itemText('the code of the coupon', 'code', (c) => c.tickets.coupons, ofTickets('coupons')),
  couponUses: itemCount('the uses of the coupon', 'coupons', 'uses'),
  extraWords: itemText('the words of the extra', 'words', (c) => c.tickets.extras, ofTickets('extras')),
  question: itemText('the question', 'ask', (c) => c.tickets.questions, ofTickets('questions')),
  consent: itemText('the words of the consent', 'consent', (c) => c.tickets.questions, ofTickets('questions')),
  linkLabel: itemText(
    'the words of the link',
    'label',
    (c) => c.links,
    (c, links) => ({ ...c, links }),
  ),
  documentTitle: itemText(
    'the title of the document',
    'title',
    (c) => c.documents,
    (c, documents) => ({ ...c, documents }),
  ),
  programmeTitle: programmeText('the title in the programme', 'title'),
  programmeNames: programmeText('the names in the programme', 'names'),
  programmeRoom: programmeText('the room in the programme', 'room'),
};
