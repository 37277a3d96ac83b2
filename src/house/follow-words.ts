import { toFollowSchema } from '@/core/record/record';
import { jsonSetting } from '@/store/settings';

/**
 * What the public reads in this house in place of what is not known yet, as far as it says otherwise than usual. The
 * same objects as long as it is not kept anew.
 */
export const followWords = jsonSetting('to-follow', toFollowSchema, toFollowSchema.parse({}));
