import type { RecordId } from '@/core/base/ids';

/** A picture of the house, for the eye. */
export interface KeptPicture {
  id: string;
  name: string;
  width: number;
  height: number;
  credit: string;
  alt: string;
  /** The last day that it may be used; `null`: for good. */
  until: string | null;
  /** It is the house's logo. */
  logo: boolean;
  /** Events that use it. */
  uses: { id: RecordId; title: string }[];
}
