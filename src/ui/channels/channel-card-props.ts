import type { ChannelAudience } from '@/core/listing/channel-row';
import type { Categories, MapCategories } from './CategoryMap';
import type { Connect, SettingOf } from './ConnectForm';

export interface ChannelCardProps {
  channel: {
    id: string;
    name: string;
    shortName: string;
    kindName: string;
    trade: string;
    habits: readonly string[];
    fields: { label: string; limit: string; need: string }[];
    operations: { name: string; does: string; tells: string; undo: string }[];
    credentials: readonly { name: string; label: string; secret: boolean; about?: string }[];
    settingFields: readonly SettingOf[];
    kind: string;
    /** It lies at our own house. */
    ours: boolean;
    /** Where it lies, for whoever subscribes to it; `null`: there is no such address. */
    feed: string | null;
    settings: Record<string, unknown>;
    off: readonly string[];
    oursOnly: readonly string[];
    unties: readonly string[];
    lateCauses: readonly string[];
    locks: readonly string[];
    gives: string;
    picture: string;
    fee: string;
    pace: string;
    /** How long a change takes until it shows, as the kind says. */
    expected: string;
    /** Its own closed list of categories, and where each kind of event stands. */
    categories: Categories | null;
    steps: readonly string[];
    /** How it does: when it was read last, how long changes took, what waits. */
    health: { lastRead: string; median: string; nineInTen: string; waiting: number; pausedFor: string };
    /** Hosts that are not its own, on which it gave addresses. */
    foreign: readonly { host: string; address: string }[];
    /** Who sees what stands there. */
    audience: ChannelAudience;
    /** What the clock alone changes is sent there without asking. */
    standingLeave: boolean;
    /** The channel whose connection it uses; `null`: its own. */
    through: string | null;
    connection: { address: string; knownAs: string; since: string } | null;
    /** It does not answer, since when; `long`: for more than an hour. */
    failing: { since: string; long: boolean } | null;
  };
  connect: Connect;
  sayAudience: (
    id: string,
    audience: ChannelAudience,
  ) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  giveLeave: (id: string, given: boolean) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  /** Keeps what a place that is filled in by hand asks for. */
  keepHandRules: (
    id: string,
    rules: unknown,
  ) => Promise<{ ok: true; value: null } | { ok: false; error: Record<string, string> }>;
  renewFeed: (id: string) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  disconnect: (id: string) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  bringBack: (id: string) => Promise<{ ok: true; value: { knownAs: string } } | { ok: false; error: string }>;
  mapCategories: MapCategories;
  allowHost: (id: string, host: string) => Promise<{ ok: true; value: null } | { ok: false; error: string }>;
  rename: (
    id: string,
    names: { name: string; shortName: string },
  ) => Promise<{ ok: true; value: null } | { ok: false; error: Record<string, string> }>;
}

/** What is told where a call came to nothing. */
export const noAnswer = () => ({ ok: false as const, error: 'The house did not answer. Try once more.' });
